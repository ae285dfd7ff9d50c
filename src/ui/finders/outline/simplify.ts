export type Point = readonly [number, number]

/**
 * The points of a drawn line that matter: no dropped point lies farther than `tolerance` from the line that is left.
 * Source: Douglas and Peucker, "Algorithms for the reduction of the number of points ...", Cartographica 10 (1973).
 */
export function simplify(points: readonly Point[], tolerance: number): Point[] {
  if (points.length < 3) return [...points]
  const keep = new Uint8Array(points.length)
  keep[0] = keep[points.length - 1] = 1
  const stack: [number, number][] = [[0, points.length - 1]]
  while (stack.length) {
    const [from, to] = stack.pop()!
    const [ax, ay] = points[from],
      [bx, by] = points[to]
    const length = Math.hypot(bx - ax, by - ay)
    let farthest = tolerance,
      at = -1
    for (let i = from + 1; i < to; i++) {
      const [x, y] = points[i]
      const distance =
        length === 0 ? Math.hypot(x - ax, y - ay) : Math.abs((bx - ax) * (ay - y) - (ax - x) * (by - ay)) / length
      if (distance > farthest) {
        farthest = distance
        at = i
      }
    }
    if (at >= 0) {
      keep[at] = 1
      stack.push([from, at], [at, to])
    }
  }
  return points.filter((_, i) => keep[i])
}

/** Takes the hand's tremble out: each point but the ends becomes the weighted mean of itself and its neighbours. */
export function steadied(points: readonly Point[]): Point[] {
  return points.map(([x, y], i) => {
    if (i === 0 || i === points.length - 1) return [x, y]
    const [px, py] = points[i - 1],
      [nx, ny] = points[i + 1]
    return [(px + 2 * x + nx) / 4, (py + 2 * y + ny) / 4]
  })
}

/** To a hundredth of a pixel: finer is not seen, and records stay short. */
export const rounded = (points: readonly Point[]): Point[] =>
  points.map(([x, y]) => [Math.round(x * 100) / 100, Math.round(y * 100) / 100])
