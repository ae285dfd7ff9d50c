import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { paintStrokes } from './brush'
import { type Stroke } from './stroke'
import { emptyMatte } from './picture'

const size = { width: 120, height: 90 }
const stroke = (more: Partial<Stroke>): Stroke => ({
  points: [[60, 45]],
  size: 40,
  hardness: 1,
  strength: 1,
  spacing: 0.1,
  tip: 'round',
  erase: false,
  ...more,
})
const painted = (...strokes: Stroke[]) => {
  const m = emptyMatte(size)
  paintStrokes(m, strokes)
  return m
}
const area = (m: { data: Uint8Array }) => m.data.reduce((s, v) => s + v / 255, 0)

describe('the brush', () => {
  it('a hard dab has the area of its disc or square, anti-aliased, wherever it lies on the pixel grid', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 40, max: 80, noNaN: true }),
        fc.double({ min: 35, max: 55, noNaN: true }),
        fc.double({ min: 4, max: 50, noNaN: true }),
        (x, y, s) => {
          expect(area(painted(stroke({ points: [[x, y]], size: s }))) / (Math.PI * (s / 2) ** 2)).toBeCloseTo(1, 0.7)
          expect(
            Math.abs(Math.sqrt(area(painted(stroke({ points: [[x, y]], size: s, tip: 'square' })))) - s),
          ).toBeLessThan(0.6)
        },
      ),
      { numRuns: 40 },
    )
  })
  it('softer covers less, and always within the same radius', () => {
    let last = Infinity
    for (const hardness of [1, 0.75, 0.5, 0.25, 0]) {
      const m = painted(stroke({ hardness })),
        now = area(m)
      expect(now).toBeLessThan(last)
      last = now
      m.data.forEach((v, i) => {
        if (v > 0) expect(Math.hypot((i % 120) + 0.5 - 60, Math.floor(i / 120) + 0.5 - 45)).toBeLessThan(21.5)
      })
    }
  })
  it('a straight stroke is a capsule with a straight side; dabs on it do not pile up', () => {
    const m = painted(
      stroke({
        points: [
          [30, 45],
          [90, 45],
        ],
        size: 30,
        strength: 0.5,
      }),
    )
    expect(area(m) / (0.5 * (60 * 30 + Math.PI * 225))).toBeCloseTo(1, 1)
    expect(Math.max(...m.data)).toBe(128)
    const side = Array.from({ length: 50 }, (_, i) => m.data[30 * 120 + 35 + i])
    expect(Math.max(...side) - Math.min(...side)).toBeLessThan(40)
  })
  it('two strokes go over each other, erasing takes away, pressure scales', () => {
    expect(painted(stroke({ strength: 0.5 }), stroke({ strength: 0.5 })).data[45 * 120 + 60]).toBe(192)
    expect(area(painted(stroke({}), stroke({ erase: true })))).toBe(0)
    expect(area(painted(stroke({ points: [[60, 45, 0.5]] })))).toBeCloseTo(area(painted(stroke({ size: 20 }))), 6)
  })
  it('wide spacing leaves separate dabs; a brush larger than the picture covers it; no points, no size and places outside paint nothing', () => {
    expect(
      painted(
        stroke({
          points: [
            [20, 45],
            [100, 45],
          ],
          size: 10,
          spacing: 3,
        }),
      ).data[45 * 120 + 35],
    ).toBe(0)
    expect(painted(stroke({ size: 2000 })).data.every((v) => v === 255)).toBe(true)
    expect(
      area(
        painted(
          stroke({ points: [] }),
          stroke({ size: 0 }),
          stroke({
            points: [
              [-500, 9],
              [-400, 900000],
            ],
          }),
        ),
      ),
    ).toBe(0)
  })
})
