/** Left, top, right, bottom of points; of none: an empty box. */
export function boundsOfPoints(points: readonly (readonly number[])[]): [number, number, number, number] {
  let left = Infinity,
    top = Infinity,
    right = -Infinity,
    bottom = -Infinity
  for (const [x, y] of points) {
    left = Math.min(left, x)
    top = Math.min(top, y)
    right = Math.max(right, x)
    bottom = Math.max(bottom, y)
  }
  return points.length ? [left, top, right, bottom] : [0, 0, 0, 0]
}
