import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { halveMatte, levelCount, mattePyramid, picturePyramid } from './levels'
import { type Matte, type Picture, shares } from './picture'

const flatOrNot = fc.oneof(fc.constant(0), fc.constant(255), fc.nat(255))
const mattes: fc.Arbitrary<Matte> = fc
  .tuple(fc.integer({ min: 1, max: 21 }), fc.integer({ min: 1, max: 9 }))
  .chain(([width, height]) =>
    fc
      .array(flatOrNot, { minLength: Math.ceil((width * height) / 4), maxLength: Math.ceil((width * height) / 4) })
      .map((v) => ({ width, height, data: Uint8Array.from({ length: width * height }, (_, i) => v[i >> 2]) })),
  )

describe('mip levels', () => {
  it('each pixel is the rounded mean of the pixels below it, at any size', () => {
    fc.assert(
      fc.property(mattes, (matte) => {
        const half = halveMatte(matte)
        for (let y = 0; y < half.height; y++)
          for (let x = 0; x < half.width; x++) {
            const below = [0, 1]
              .flatMap((dy) => [0, 1].map((dx) => [2 * x + dx, 2 * y + dy]))
              .map(([i, j]) => matte.data[Math.min(j, matte.height - 1) * matte.width + Math.min(i, matte.width - 1)])
            expect(Math.abs(half.data[y * half.width + x] - below.reduce((a, b) => a + b) / 4)).toBeLessThanOrEqual(0.5)
          }
      }),
      { numRuns: 200 },
    )
  })
  it('shares are the mean coverage and the share of soft pixels', () => {
    fc.assert(
      fc.property(mattes, (matte) => {
        const { selected, soft } = shares(matte)
        expect(selected).toBeCloseTo(matte.data.reduce((s, v) => s + v, 0) / 255 / matte.data.length, 9)
        expect(soft).toBeCloseTo(matte.data.filter((v) => v > 0 && v < 255).length / matte.data.length, 9)
      }),
    )
  })
  it('goes down to one tile, and colour is weighted by alpha', () => {
    expect([
      levelCount({ width: 6000, height: 4000 }),
      levelCount({ width: 256, height: 10 }),
      levelCount({ width: 1, height: 1 }),
    ]).toEqual([6, 1, 1])
    expect(
      mattePyramid({ width: 1025, height: 3, data: new Uint8Array(3075) }).map((m) => [m.width, m.height]),
    ).toEqual([
      [1025, 3],
      [513, 2],
      [257, 1],
      [129, 1],
    ])
    const picture: Picture = { width: 512, height: 2, data: new Uint8ClampedArray(512 * 8) }
    for (let i = 0; i < 1024; i++) picture.data.set(i % 2 ? [0, 0, 0, 0] : [200, 100, 50, 255], i * 4)
    expect([...picturePyramid(picture, false)[1].data.slice(0, 4)]).toEqual([200, 100, 50, 128])
    for (let i = 0; i < 1024; i++) picture.data.set(i % 2 ? [10, 20, 30, 255] : [20, 40, 61, 255], i * 4)
    expect([...picturePyramid(picture, true)[1].data.slice(0, 4)]).toEqual([15, 30, 46, 255])
  })
})
