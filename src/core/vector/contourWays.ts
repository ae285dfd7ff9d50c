/** Ways along closed contours between places that lie on them. */
import { type Point } from './fill'
import { type Contour } from './trace'

/** A contour's point near a place. */
export interface OnContour {
  readonly contour: number
  /** Which of its points. */
  readonly at: number
  /** px */
  readonly away: number
}

/** The nearest point of any contour to each place; undefined where none lies within `most` px. */
export function nearestOn(
  contours: readonly Contour[],
  places: readonly Point[],
  most: number,
): (OnContour | undefined)[] {
  const found: (OnContour | undefined)[] = places.map(() => undefined),
    around = placesAround(places, most)
  contours.forEach((points, contour) => {
    for (let i = 0; i < points.length; i += 2)
      for (const k of around(points[i], points[i + 1])) {
        const away = Math.hypot(points[i] - places[k][0], points[i + 1] - places[k][1])
        if (away <= (found[k]?.away ?? most)) found[k] = { contour, at: i / 2, away }
      }
  })
  return found
}

/** Which places may lie within `most` px of a point: squares of that size know those in them and around them. */
function placesAround(places: readonly Point[], most: number): (x: number, y: number) => readonly number[] {
  const squares = new Map<number, number[]>(),
    square = (u: number, v: number) => u * 2 ** 26 + v,
    none: readonly number[] = []
  places.forEach(([x, y], k) => {
    const u = Math.floor(x / most),
      v = Math.floor(y / most)
    for (const du of [-1, 0, 1])
      for (const dv of [-1, 0, 1]) {
        const key = square(u + du, v + dv),
          known = squares.get(key)
        if (known) known.push(k)
        else squares.set(key, [k])
      }
  })
  return (x, y) => squares.get(square(Math.floor(x / most), Math.floor(y / most))) ?? none
}

/**
 * The way along a contour from each place to the next, the last to the first; it begins and ends at the places themselves. Null where the two do not lie
 * on one contour (within `most` px), or others lie on the way.
 * @param clockwise whether the places go round clockwise, y downwards: what contours enclose lies to the right of the ways, else to the left
 */
export function waysAlong(
  contours: readonly Contour[],
  places: readonly Point[],
  most: number,
  clockwise: boolean,
): (readonly Point[] | null)[] {
  const on = nearestOn(contours, places, most),
    next = followers(on, clockwise)
  return places.map((place, k) => {
    const last = (k + 1) % places.length,
      from = on[k],
      to = on[last]
    if (!from || !to || next[k] !== last) return null
    return easedEnds(between(contours[from.contour], from.at, to.at, clockwise), place, places[last])
  })
}

/** Which place comes after each along its contour; itself where it is alone there. */
function followers(on: readonly (OnContour | undefined)[], forward: boolean): number[] {
  const next = on.map((_, k) => k),
    sorted = on.flatMap((one, k) => (one ? [{ ...one, k }] : []))
  sorted.sort((a, b) => a.contour - b.contour || (forward ? a.at - b.at : b.at - a.at) || a.k - b.k)
  let first = 0
  sorted.forEach(({ contour, k }, i) => {
    const ends = sorted[i + 1]?.contour !== contour
    next[k] = sorted[ends ? first : i + 1].k
    if (ends) first = i + 1
  })
  return next
}

function between(points: Contour, from: number, to: number, forward: boolean): Point[] {
  const count = points.length / 2,
    way: Point[] = []
  for (let i = from; ; i = (i + (forward ? 1 : count - 1)) % count) {
    way.push([points[2 * i], points[2 * i + 1]])
    if (i === to) return way
  }
}

/** A way is led to a place beside it over so many times the distance. */
const EASE = 3

/** The same way, from place to place: what it misses them by is taken up over its ends. */
function easedEnds(way: readonly Point[], from: Point, to: Point): Point[] {
  const along = [0]
  for (let i = 1; i < way.length; i++)
    along.push(along[i - 1] + Math.hypot(way[i][0] - way[i - 1][0], way[i][1] - way[i - 1][1]))
  const missed = (place: Point, [x, y]: Point) => {
    const dx = place[0] - x,
      dy = place[1] - y,
      reach = EASE * Math.hypot(dx, dy)
    return (distance: number): Point => {
      const share = distance < reach ? 1 - distance / reach : 0
      return [dx * share, dy * share]
    }
  }
  const atFirst = missed(from, way[0]),
    atLast = missed(to, way[way.length - 1]),
    length = along[along.length - 1]
  const eased = way.map(([x, y], i): Point => {
    const [ax, ay] = atFirst(along[i]),
      [bx, by] = atLast(length - along[i])
    return [x + ax + bx, y + ay + by]
  })
  return [from, ...eased.slice(1, -1), to]
}

/** Whether a place lies within contours, even-odd. */
export function liesWithin(contours: readonly Contour[], [x, y]: Point): boolean {
  let within = false
  for (const points of contours)
    for (let i = 0, j = points.length - 2; i < points.length; j = i, i += 2) {
      const above = points[i + 1] > y
      if (
        above !== points[j + 1] > y &&
        x < ((points[j] - points[i]) * (y - points[i + 1])) / (points[j + 1] - points[i + 1]) + points[i]
      )
        within = !within
    }
  return within
}
