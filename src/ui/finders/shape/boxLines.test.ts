import { describe, expect, it } from 'vitest'
import { boxLines } from './boxLines'

describe('lines inside a box', () => {
  it('the golden section divides each side so that the whole is to the longer part as that to the shorter', () => {
    const places = boxLines('golden', 1, 0)
      .filter(([[u0], [u1]]) => u0 === u1)
      .map(([[u]]) => u)
    expect(places[1] / (1 - places[1])).toBeCloseTo(1 / places[1], 12)
  })
  it('the spiral begins in a corner, never leaves the box, and is continuous; flipped it begins in the other', () => {
    const [spiral] = boxLines('spiral', 1.5, 0)
    expect(spiral[0][0]).toBeCloseTo(0, 9)
    expect(spiral[0][1]).toBeCloseTo(1, 9)
    for (const [u, v] of spiral) {
      expect(u).toBeGreaterThanOrEqual(-1e-9)
      expect(u).toBeLessThanOrEqual(1 + 1e-9)
      expect(v).toBeGreaterThanOrEqual(-1e-9)
      expect(v).toBeLessThanOrEqual(1 + 1e-9)
    }
    for (let i = 1; i < spiral.length; i++)
      expect(Math.hypot(spiral[i][0] - spiral[i - 1][0], spiral[i][1] - spiral[i - 1][1])).toBeLessThan(0.15)
    const [other] = boxLines('spiral', 1.5, 3)
    expect(other[0][0]).toBeCloseTo(1, 9)
    expect(other[0][1]).toBeCloseTo(0, 9)
  })
  it('the triangle’s short lines stand square on its diagonal in the box as it is', () => {
    for (const aspect of [0.5, 1, 1.78]) {
      const [diagonal, first] = boxLines('triangle', aspect, 0)
      const way = ([a, b]: readonly (readonly [number, number])[]) => [(b[0] - a[0]) * aspect, b[1] - a[1]]
      const [p, q] = [way(diagonal), way(first)]
      expect(p[0] * q[0] + p[1] * q[1]).toBeCloseTo(0, 12)
    }
  })
})
