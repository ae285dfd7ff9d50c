import { describe, expect, it } from 'vitest'
import { randomOf } from '../../../tests/madeUp/random'
import { liesWithin, nearestOn, waysAlong } from './contourWays'
import { fillPolygons, type Point } from './fill'
import { type Contour, traceMatte } from './trace'

const size = { width: 240, height: 200 },
  CENTRE: Point = [120, 100]
const onCircle = (turn: number, radius: number): Point => [
  CENTRE[0] + radius * Math.cos(turn * 2 * Math.PI),
  CENTRE[1] + radius * Math.sin(turn * 2 * Math.PI),
]
const circle = (radius: number): Point[] => Array.from({ length: 360 }, (_, k) => onCircle(k / 360, radius))
/** A ring: an outer contour, and one around its opening. */
const ring = traceMatte(fillPolygons(size, [circle(80), circle(30)], 'evenodd'))
const radiusOf = ([x, y]: Point) => Math.hypot(x - CENTRE[0], y - CENTRE[1])
const lengthOf = (way: readonly Point[]) =>
  way.reduce((sum, [x, y], i) => sum + (i ? Math.hypot(x - way[i - 1][0], y - way[i - 1][1]) : 0), 0)

describe('ways along contours', () => {
  it.each<[string, boolean]>([
    ['clockwise', true],
    ['anticlockwise', false],
  ])('places that go round %s: each way is the arc to the next, from place to place', (_, clockwise) => {
    const places = [0, 1, 2, 3, 4].map((k) => onCircle(clockwise ? k / 5 : 1 - k / 5, 80)),
      ways = waysAlong(ring, places, 3, clockwise)
    ways.forEach((way, k) => {
      expect(way![0]).toEqual(places[k])
      expect(way!.at(-1)).toEqual(places[(k + 1) % 5])
      for (const point of way!) expect(Math.abs(radiusOf(point) - 80)).toBeLessThan(0.5)
      // A circle's contour on whole pixels is somewhat longer than the circle.
      expect(lengthOf(way!) / ((2 * Math.PI * 80) / 5)).toBeGreaterThan(0.98)
      expect(lengthOf(way!) / ((2 * Math.PI * 80) / 5)).toBeLessThan(1.1)
    })
  })
  it('of a half of the ring, ways lead along its outer side and along its opening', () => {
    const places = [onCircle(0, 80), onCircle(0.5, 80), onCircle(0.5, 30), onCircle(0.25, 30), onCircle(0, 30)],
      middle = (way: readonly Point[] | null) => way?.[Math.floor(way.length / 2)]
    const ways = waysAlong(ring, places, 3, true)
    expect(ways.map((way) => way && Math.round(radiusOf(middle(way)!)))).toEqual([80, null, 30, 30, null])
    for (const way of [ways[0], ways[2], ways[3]]) expect(middle(way)![1]).toBeGreaterThan(110)
  })
  it('a place beside every contour has no ways, and those beside it keep theirs', () => {
    const places = [0, 0.2, 0.4, 0.6, 0.8].map((turn) => onCircle(turn, turn === 0.4 ? 74 : 80))
    expect(waysAlong(ring, places, 3, true).map(Boolean)).toEqual([true, false, false, true, true])
    expect(waysAlong(ring, places, 7, true).map(Boolean)).toEqual([true, true, true, true, true])
  })
  it('what a place is off by is taken up near it, and nowhere else', () => {
    const places = [0, 0.25, 0.5, 0.75].map((turn) => onCircle(turn, turn === 0.25 ? 84 : 80)),
      way = waysAlong(ring, places, 6, true)[0]!
    expect(radiusOf(way.at(-1)!)).toBeCloseTo(84)
    for (const point of way)
      expect(Math.abs(radiusOf(point) - 80)).toBeLessThan(Math.hypot(point[0] - 120, point[1] - 184) < 13 ? 4.1 : 0.5)
  })
  it('a way past another place is none', () => {
    const ways = waysAlong(
      ring,
      [0, 0.5, 0.25, 0.75].map((turn) => onCircle(turn, 80)),
      3,
      true,
    )
    expect(ways.map(Boolean)).toEqual([false, false, false, true])
  })
  it('the nearest points are those of a search through all, and within is what is filled', () => {
    const random = randomOf(11)
    for (let n = 0; n < 20; n++) {
      const loops = Array.from({ length: 3 }, () =>
          Array.from({ length: 6 }, (): Point => [random.between(0, 240), random.between(0, 200)]),
        ),
        matte = fillPolygons(size, loops, 'evenodd', false),
        contours = traceMatte(matte),
        places = Array.from({ length: 40 }, (): Point => [random.between(-20, 260), random.between(-20, 220)]),
        most = random.between(0.5, 30)
      expect(nearestOn(contours, places, most).map((one) => one?.away)).toEqual(
        places.map((place) => bruteAway(contours, place, most)),
      )
      for (let k = 0; k < 40; k++) {
        const x = random.whole(0, 240),
          y = random.whole(0, 200)
        expect(liesWithin(contours, [x + 0.5, y + 0.5])).toBe(matte.data[y * 240 + x] > 127)
      }
    }
  })
})

function bruteAway(contours: readonly Contour[], [x, y]: Point, most: number): number | undefined {
  let least = Infinity
  for (const points of contours)
    for (let i = 0; i < points.length; i += 2) least = Math.min(least, Math.hypot(points[i] - x, points[i + 1] - y))
  return least <= most ? least : undefined
}
