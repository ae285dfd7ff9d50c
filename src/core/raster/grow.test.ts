import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { gaussianBlur } from './gaussian'
import { grow } from './grow'
import { distanceTo, nearestSetPixels, withinReach } from './distance'
import { emptyMatte, type Matte } from './picture'

const WIDTH = 40,
  HEIGHT = 31
const spots = fc.array(fc.tuple(fc.integer({ min: 0, max: WIDTH - 1 }), fc.integer({ min: 0, max: HEIGHT - 1 })), {
  minLength: 1,
  maxLength: 12,
})
const matteOf = (points: [number, number][]): Matte => {
  const m = emptyMatte({ width: WIDTH, height: HEIGHT })
  for (const [x, y] of points) m.data[y * WIDTH + x] = 255
  return m
}
const bruteDistance = (points: [number, number][], x: number, y: number) =>
  Math.min(...points.map(([px, py]) => Math.hypot(px - x, py - y)))

describe('distance and growth', () => {
  it('the nearest set pixel is as near as brute force finds, up to the limit', () => {
    fc.assert(
      fc.property(spots, fc.integer({ min: 1, max: 50 }), (points, limit) => {
        const set = matteOf(points).data,
          found = new Int32Array(set.length).fill(-1)
        nearestSetPixels(set, { width: WIDTH, height: HEIGHT }, limit, (y, nearest, from, to) => {
          for (let x = from; x < to; x++) found[y * WIDTH + x] = nearest[x]
        })
        found.forEach((seed, i) => {
          const x = i % WIDTH,
            y = Math.floor(i / WIDTH),
            truth = bruteDistance(points, x, y)
          if (truth > limit + 1e-9) expect(seed).toBe(-1)
          else {
            expect(set[seed]).toBe(255)
            expect(Math.hypot(x - (seed % WIDTH), y - Math.floor(seed / WIDTH))).toBeCloseTo(truth, 9)
          }
        })
      }),
    )
  })
  it('what is within reach, and how far it is, are as brute force finds', () => {
    fc.assert(
      fc.property(spots, fc.double({ min: 0.5, max: 50, noNaN: true }), (points, reach) => {
        const set = matteOf(points).data,
          size = { width: WIDTH, height: HEIGHT },
          near = withinReach(set, size, reach),
          distance = distanceTo(set, size, reach)
        near.forEach((is, i) => {
          const truth = bruteDistance(points, i % WIDTH, Math.floor(i / WIDTH))
          expect(is).toBe(truth <= reach ? 1 : 0)
          expect(distance(i)).toBeCloseTo(truth <= reach ? truth : Infinity, 9)
        })
      }),
    )
  })
  it('growing a hard-edged set covers fully just the pixels within the distance (brute force)', () => {
    fc.assert(
      fc.property(spots, fc.integer({ min: 1, max: 15 }), (points, by) => {
        const grown = grow(matteOf(points), by)
        for (let y = 0; y < HEIGHT; y++)
          for (let x = 0; x < WIDTH; x++) {
            const coverage = Math.min(1, Math.max(0, by + 1 - bruteDistance(points, x, y)))
            expect(Math.abs(grown.data[y * WIDTH + x] - 255 * coverage)).toBeLessThanOrEqual(1)
          }
      }),
      { numRuns: 40 },
    )
  })
  it('shrinking is growing the inverse, and never adds', () => {
    fc.assert(
      fc.property(spots, fc.double({ min: 0.5, max: 8, noNaN: true }), (points, by) => {
        const matte = grow(matteOf(points), 6)
        expect(grow(matte, -by).data.every((v, i) => v <= matte.data[i])).toBe(true)
      }),
      { numRuns: 40 },
    )
  })
  it('a straight anti-aliased edge moves by the distance to a twentieth of a pixel', () => {
    const width = 60,
      edge = 20.3
    const matte: Matte = {
      width,
      height: 5,
      data: Uint8Array.from({ length: width * 5 }, (_, i) =>
        Math.round(255 * Math.min(1, Math.max(0, edge - (i % width)))),
      ),
    }
    const area = (m: Matte) => m.data.slice(2 * width, 3 * width).reduce((s, v) => s + v / 255, 0)
    for (const by of [0.25, 1, 7.5, 20, -0.5, -3.25, -12]) expect(area(grow(matte, by))).toBeCloseTo(edge + by, 1)
  })
  it('a feathered edge keeps its profile and moves by the distance', () => {
    const width = 200
    const soft = gaussianBlur(
      { width, height: 7, data: Uint8Array.from({ length: width * 7 }, (_, i) => (i % width < 90 ? 255 : 0)) },
      8,
    )
    const grown = grow(soft, 20)
    for (let x = 40; x < 170; x++)
      expect(Math.abs(grown.data[3 * width + x] - soft.data[3 * width + x - 20])).toBeLessThanOrEqual(2)
  })
  it('nothing grows to nothing, everything stays everything, and a non-number is refused in words', () => {
    const size = { width: 9, height: 4 }
    expect(grow(emptyMatte(size), 5).data.every((v) => v === 0)).toBe(true)
    expect(grow({ ...size, data: new Uint8Array(36).fill(255) }, -5).data.every((v) => v === 255)).toBe(true)
    expect(() => grow(emptyMatte(size), NaN)).toThrow('a distance in px')
  })
})
