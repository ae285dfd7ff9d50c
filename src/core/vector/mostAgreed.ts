/** Which of several ways between the same two places the others agree with. */
import { type Point } from './fill'

/** How far one way lies from another is asked at so many places along it. */
const PLACES = 64

/**
 * Of three ways or more the one that lies nearest to all others (the medoid: Kaufman and Rousseeuw, "Clustering by means of medoids", 1987); of two the
 * first: nothing tells which of them is right.
 * @param ways at least one, each of two points or more; of equals the first counts
 */
export function mostAgreed(ways: readonly (readonly Point[])[]): readonly Point[] {
  if (ways.length < 3) return ways[0]
  const away = ways.map((way) => ways.reduce((sum, other) => sum + (other === way ? 0 : apart(way, other)), 0))
  return ways[away.indexOf(Math.min(...away))]
}

/** How far two ways lie from each other, the mean of both directions, px. */
function apart(one: readonly Point[], other: readonly Point[]): number {
  const from = (way: readonly Point[], to: readonly Point[]) => {
    const places = evenly(way)
    return places.reduce((sum, place) => sum + Math.sqrt(squaredTo(to, place)), 0) / places.length
  }
  return (from(one, other) + from(other, one)) / 2
}

/** Places at even distances along a way. */
function evenly(way: readonly Point[]): Point[] {
  const along = [0]
  for (let i = 1; i < way.length; i++)
    along.push(along[i - 1] + Math.hypot(way[i][0] - way[i - 1][0], way[i][1] - way[i - 1][1]))
  let i = 1
  return Array.from({ length: PLACES }, (_, k) => {
    const at = ((k + 0.5) / PLACES) * along[along.length - 1]
    while (i < way.length - 1 && along[i] < at) i++
    const length = along[i] - along[i - 1],
      share = length > 0 ? (at - along[i - 1]) / length : 0
    return [way[i - 1][0] + share * (way[i][0] - way[i - 1][0]), way[i - 1][1] + share * (way[i][1] - way[i - 1][1])]
  })
}

/** The square of how far a place is from the lines of a way. */
function squaredTo(way: readonly Point[], [x, y]: Point): number {
  let least = Infinity
  for (let i = 1; i < way.length; i++) {
    const [ax, ay] = way[i - 1],
      dx = way[i][0] - ax,
      dy = way[i][1] - ay,
      length = dx * dx + dy * dy,
      share = length > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length)) : 0
    least = Math.min(least, (x - ax - share * dx) ** 2 + (y - ay - share * dy) ** 2)
  }
  return least
}
