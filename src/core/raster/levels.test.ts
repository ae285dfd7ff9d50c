import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { halveMatte, levelCount, mattePyramid, picturePyramid } from './levels'
import { type Matte, type Picture } from './picture'

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
  it('a raster that is halved in several parts is halved as one', () => {
    const matte = { width: 1025, height: 701, data: new Uint8Array(1025 * 701) }
    for (let i = 0, seed = 1; i < matte.data.length; i++)
      matte.data[i] = (seed = (Math.imul(seed, 1103515245) + 12345) >>> 0) >>> 24
    const { width, height, data } = halveMatte(matte)
    expect([width, height]).toEqual([513, 351])
    const at = (x: number, y: number) => matte.data[Math.min(y, 700) * 1025 + Math.min(x, 1024)]
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const mean = (at(2 * x, 2 * y) + at(2 * x + 1, 2 * y) + at(2 * x, 2 * y + 1) + at(2 * x + 1, 2 * y + 1)) / 4
        if (Math.abs(data[y * width + x] - mean) > 0.5) expect(data[y * width + x], `at ${x},${y}`).toBeCloseTo(mean, 0)
      }
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
