import { describe, expect, it } from 'vitest'
import fc from '../../../../tests/properties'
import { type Affine, compose, inverse, rotation, scaling, translation } from '../../raster/affine'
import { type Matte } from '../../raster/picture'
import { sampleCoverageRow } from '../../raster/sampleRow'
import { plainContext, sceneOf } from '../onePicture'
import { transform } from './transform'

const moved = (matte: Matte, matrix: Affine): Matte =>
  transform.modify(matte, { matrix }, plainContext(), sceneOf(onePx))
const onePx = { width: 1, height: 1, data: new Uint8ClampedArray(4) }
const place = fc.double({ min: -60, max: 60, noNaN: true })

describe('the selection moved, scaled and turned', () => {
  it('is what each px sees through the map, wherever that lies', () => {
    const mattes = fc
      .record({ width: fc.integer({ min: 1, max: 40 }), height: fc.integer({ min: 1, max: 40 }) })
      .chain(({ width, height }) =>
        fc.uint8Array({ minLength: width * height, maxLength: width * height }).chain((data) =>
          fc.record({
            width: fc.constant(width),
            height: fc.constant(height),
            // Often all the same in the middle, and nothing all round.
            data: fc.tuple(fc.nat(width), fc.nat(height)).map(([left, top]) =>
              data.map((v, i) => {
                const x = i % width,
                  y = Math.floor(i / width)
                return x < left || y < top ? 0 : x > left + 3 && y > top + 3 ? 255 : v
              }),
            ),
          }),
        ),
      )
    const maps = fc.oneof(
      fc.tuple(place, place).map(([x, y]) => translation(Math.round(x), Math.round(y))),
      fc
        .tuple(
          place,
          place,
          fc.double({ min: -180, max: 180, noNaN: true }),
          fc.double({ min: 0.05, max: 4, noNaN: true }),
          fc.boolean(),
        )
        .map(([x, y, turn, size, mirrored]) =>
          compose(translation(x, y), compose(rotation(turn, 20, 20), scaling(mirrored ? -size : size, size))),
        ),
    )
    fc.assert(
      fc.property(mattes, maps, (matte, map) => {
        const answer = moved(matte, map),
          row = new Float32Array(matte.width)
        for (let y = 0; y < matte.height; y++) {
          if (!sampleCoverageRow(matte, inverse(map), y, row)) row.fill(0)
          for (let x = 0; x < matte.width; x++)
            expect(Math.abs(answer.data[y * matte.width + x] - 255 * row[x])).toBeLessThan(0.51)
        }
      }),
      { numRuns: 200 },
    )
  })
  it('enlarged, its edge falls off as far as the map has it', () => {
    const one: Matte = { width: 9, height: 1, data: Uint8Array.from([0, 0, 0, 0, 255, 0, 0, 0, 0]) }
    // Four times as large: from 255 in the middle, which comes to lie between two px, down to 0 four px away.
    const answer = moved(one, compose(translation(5, 0.5), compose(scaling(4, 1), translation(-4.5, -0.5))))
    expect([...answer.data]).toEqual([0, 32, 96, 159, 223, 223, 159, 96, 32])
  })
  it('is there again when it is moved there and back, as far as it never left', () => {
    const matte = {
      width: 30,
      height: 20,
      data: new Uint8Array(600).map((_, i) => (i % 30 > 5 && i % 30 < 20 && i > 240 && i < 400 ? i % 256 : 0)),
    }
    expect(moved(moved(matte, translation(3, -4)), translation(-3, 4))).toEqual(matte)
    expect(moved(matte, translation(40, 0)).data.every((v) => v === 0)).toBe(true)
    expect(moved(matte, translation(0, -30)).data.every((v) => v === 0)).toBe(true)
  })
})
