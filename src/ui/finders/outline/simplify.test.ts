import fc from '../../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { rounded, simplify, steadied, type Point } from './simplify'

const toSegment = ([x, y]: Point, [ax, ay]: Point, [bx, by]: Point) => {
  const length2 = (bx - ax) ** 2 + (by - ay) ** 2
  const t = length2 === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length2))
  return Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay))
}

describe('drawn outlines', () => {
  it('keeps the ends, keeps the order, and drops nothing of a curve that is farther away than the tolerance', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10, max: 200 }),
        fc.double({ min: 0.3, max: 4, noNaN: true }),
        (count, tolerance) => {
          const circle: Point[] = Array.from({ length: count }, (_, i) => [
            50 * Math.cos((i / count) * 6),
            50 * Math.sin((i / count) * 6),
          ])
          const kept = simplify(circle, tolerance)
          expect([kept[0], kept.at(-1)]).toEqual([circle[0], circle.at(-1)])
          for (const p of circle)
            expect(Math.min(...kept.slice(1).map((b, i) => toSegment(p, kept[i], b)))).toBeLessThanOrEqual(
              tolerance + 1e-9,
            )
        },
      ),
    )
  })
  it('a straight line is its two ends; short lists stay', () => {
    expect(
      simplify(
        [
          [0, 0],
          [1, 1],
          [2, 2],
          [9, 9],
        ],
        0.1,
      ),
    ).toEqual([
      [0, 0],
      [9, 9],
    ])
    expect(simplify([[1, 2]], 1)).toEqual([[1, 2]])
  })
  it('steadying keeps straight lines and ends, and rounding is to hundredths', () => {
    expect(
      steadied([
        [0, 0],
        [1, 2],
        [2, 4],
        [3, 6],
      ]),
    ).toEqual([
      [0, 0],
      [1, 2],
      [2, 4],
      [3, 6],
    ])
    expect(rounded([[1.23456, 2]])).toEqual([[1.23, 2]])
  })
})
