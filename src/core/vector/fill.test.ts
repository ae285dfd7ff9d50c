import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { fillPolygons, type Point } from './fill'

const size = { width: 24, height: 20 }
const point = fc.tuple(fc.double({ min: -6, max: 30, noNaN: true }), fc.double({ min: -6, max: 26, noNaN: true }))

/** 16×16 samples a pixel, by crossing number along the row. */
function supersampled(points: readonly Point[], rule: 'nonzero' | 'evenodd'): Float64Array {
  const out = new Float64Array(size.width * size.height)
  for (let y = 0; y < size.height * 16; y++)
    for (let x = 0; x < size.width * 16; x++) {
      const px = (x + 0.5) / 16,
        py = (y + 0.5) / 16
      let winding = 0
      points.forEach(([x0, y0], i) => {
        const [x1, y1] = points[(i + 1) % points.length]
        if (y0 <= py !== y1 <= py && px < x0 + ((py - y0) / (y1 - y0)) * (x1 - x0)) winding += y1 > y0 ? 1 : -1
      })
      if (rule === 'nonzero' ? winding !== 0 : winding % 2 !== 0) out[(y >> 4) * size.width + (x >> 4)] += 255 / 256
    }
  return out
}

describe('polygon fill', () => {
  it('a triangle anywhere, also outside the canvas, matches 16×16 supersampling', () => {
    fc.assert(
      fc.property(point, point, point, (a, b, c) => {
        const matte = fillPolygons(size, [[a, b, c]], 'evenodd'),
          truth = supersampled([a, b, c], 'evenodd')
        const error = matte.data.reduce((s, v, i) => s + Math.abs(v - truth[i]), 0) / truth.length
        expect(error).toBeLessThan(1.5) // slivers: the samples' own error is up to a row of 1/16 px
      }),
      { numRuns: 30 },
    )
  })
  it('a side that leans out of the canvas by next to nothing is still a side', () => {
    const triangle = (lean: number) =>
      fillPolygons(
        size,
        [
          [
            [3, 0],
            [-40 * lean, 20],
            [lean, 0],
          ],
        ],
        'evenodd',
      ).data
    const upright = triangle(0)
    for (const lean of [5e-324, 1e-300, 1e-17, 1e-13, 1e-11])
      triangle(lean).forEach((v, i) => expect(Math.abs(v - upright[i])).toBeLessThanOrEqual(1))
  })
  it('covers exactly the area of an axis-aligned box on fractions of pixels', () => {
    const { data } = fillPolygons(
      size,
      [
        [
          [3.25, 2.5],
          [7.75, 2.5],
          [7.75, 6],
          [3.25, 6],
        ],
      ],
      'nonzero',
    )
    expect(data[2 * 24 + 3]).toBe(Math.round(255 * 0.75 * 0.5))
    expect(data[4 * 24 + 5]).toBe(255)
    expect(data[4 * 24 + 7]).toBe(Math.round(255 * 0.75))
    expect(data.reduce((s, v) => s + v, 0) / 255).toBeCloseTo(4.5 * 3.5, 1)
  })
  it('even-odd opens where an outline crosses itself, nonzero does not', () => {
    const star: Point[] = [0, 2, 4, 1, 3].map((k) => [
      12 + 9 * Math.sin((k * 2 * Math.PI) / 5),
      10 - 9 * Math.cos((k * 2 * Math.PI) / 5),
    ])
    expect(fillPolygons(size, [star], 'evenodd').data[10 * 24 + 12]).toBe(0)
    expect(fillPolygons(size, [star], 'nonzero').data[10 * 24 + 12]).toBe(255)
  })
  it('without anti-aliasing there is only in and out; nothing and a line cover nothing', () => {
    const hard = fillPolygons(
      size,
      [
        [
          [2, 1],
          [20, 5],
          [9, 18],
        ],
      ],
      'nonzero',
      false,
    )
    expect(new Set(hard.data)).toEqual(new Set([0, 255]))
    expect(fillPolygons(size, [], 'nonzero').data.every((v) => v === 0)).toBe(true)
    expect(
      fillPolygons(
        size,
        [
          [
            [2, 2],
            [9, 9],
          ],
        ],
        'nonzero',
      ).data.every((v) => v === 0),
    ).toBe(true)
  })
})
