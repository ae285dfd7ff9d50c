/** One run of points as cubic Bézier curves, within a tolerance: least squares over chord lengths, refined and split. Source: Schneider, “An algorithm for automatically fitting digitized curves”, Graphics Gems (1990). */
import { type Point } from './fill'
import { type PathNode } from './path'
import { minus, unit } from './vectors'

const REFINEMENTS = 4

/** The direction from an end into the piece, over `reach` px. */
export function endDirection(points: readonly Point[], i: number, step: number, reach: number): Point {
  let k = i + step
  while (k + step >= 0 && k + step < points.length && Math.hypot(...minus(points[k], points[i])) < reach) k += step
  return unit(points[i], points[k]) ?? [step, 0]
}

export function fitRange(
  points: readonly Point[],
  from: number,
  to: number,
  start: Point,
  end: Point,
  tolerance: number,
): PathNode[] {
  const a = points[from],
    d = points[to]
  if (to - from === 1) {
    const third = Math.hypot(...minus(d, a)) / 3
    return [
      { at: a, out: add(a, start, third) },
      { at: d, into: add(d, end, third) },
    ]
  }
  const u = chordLengths(points, from, to)
  let worst = { error: Infinity, at: (from + to) >> 1 },
    curve: Curve = [a, a, d, d]
  for (let round = 0; round <= REFINEMENTS; round++) {
    curve = leastSquares(points, from, to, u, start, end)
    worst = farthest(points, from, to, u, curve)
    if (worst.error <= tolerance)
      return [
        { at: a, out: curve[1] },
        { at: d, into: curve[2] },
      ]
    if (worst.error > 4 * tolerance + 4) break // too far off for a better parametrisation to help
    refine(points, from, u, curve)
  }
  const at = Math.min(to - 1, Math.max(from + 1, worst.at))
  const across = centreDirection(points, from, to, at, Math.max(2, 2 * tolerance))
  const left = fitRange(points, from, at, start, [-across[0], -across[1]], tolerance),
    right = fitRange(points, at, to, across, end, tolerance)
  const middle: PathNode = { at: points[at], into: left[left.length - 1].into, out: right[0].out }
  return [...left.slice(0, -1), middle, ...right.slice(1)]
}

type Curve = readonly [Point, Point, Point, Point]
const add = (p: Point, way: Point, by: number): Point => [p[0] + way[0] * by, p[1] + way[1] * by]

function centreDirection(points: readonly Point[], from: number, to: number, at: number, reach: number): Point {
  let back = at - 1,
    forth = at + 1
  while (back > from && Math.hypot(...minus(points[back], points[at])) < reach) back--
  while (forth < to && Math.hypot(...minus(points[forth], points[at])) < reach) forth++
  return unit(points[back], points[forth]) ?? unit(points[at], points[forth]) ?? [1, 0]
}

/** Each point's share of the length so far, 0-1. */
function chordLengths(points: readonly Point[], from: number, to: number): Float64Array {
  const u = new Float64Array(to - from + 1)
  for (let i = from + 1; i <= to; i++) u[i - from] = u[i - from - 1] + Math.hypot(...minus(points[i], points[i - 1]))
  const whole = u[u.length - 1] || 1
  for (let i = 0; i < u.length; i++) u[i] /= whole
  return u
}

/** The two handle lengths that bring the curve nearest to the points at their parameters. */
function leastSquares(
  points: readonly Point[],
  from: number,
  to: number,
  u: Float64Array,
  start: Point,
  end: Point,
): Curve {
  const a = points[from],
    d = points[to]
  let c00 = 0,
    c01 = 0,
    c11 = 0,
    x0 = 0,
    x1 = 0
  for (let i = 0; i < u.length; i++) {
    const t = u[i],
      s = 1 - t,
      b0 = s * s * s + 3 * s * s * t,
      b1 = 3 * s * s * t,
      b2 = 3 * s * t * t,
      b3 = 3 * s * t * t + t * t * t
    const ax = start[0] * b1,
      ay = start[1] * b1,
      ex = end[0] * b2,
      ey = end[1] * b2
    c00 += ax * ax + ay * ay
    c01 += ax * ex + ay * ey
    c11 += ex * ex + ey * ey
    const rx = points[from + i][0] - a[0] * b0 - d[0] * b3,
      ry = points[from + i][1] - a[1] * b0 - d[1] * b3
    x0 += rx * ax + ry * ay
    x1 += rx * ex + ry * ey
  }
  const det = c00 * c11 - c01 * c01,
    chord = Math.hypot(...minus(d, a))
  let first = det > 1e-12 ? (x0 * c11 - x1 * c01) / det : 0,
    second = det > 1e-12 ? (c00 * x1 - c01 * x0) / det : 0
  // The rule of thumb of the paper where the solution is no sensible curve.
  const least = 1e-6 * chord
  if (!(first > least && second > least && first < 4 * chord && second < 4 * chord)) first = second = chord / 3
  return [a, add(a, start, first), add(d, end, second), d]
}

function on([a, b, c, d]: Curve, t: number): Point {
  const s = 1 - t,
    p = s * s * s,
    q = 3 * s * s * t,
    r = 3 * s * t * t,
    w = t * t * t
  return [p * a[0] + q * b[0] + r * c[0] + w * d[0], p * a[1] + q * b[1] + r * c[1] + w * d[1]]
}

function farthest(
  points: readonly Point[],
  from: number,
  to: number,
  u: Float64Array,
  curve: Curve,
): { error: number; at: number } {
  let error = 0,
    at = (from + to) >> 1
  for (let i = 1; i < u.length - 1; i++) {
    const [x, y] = on(curve, u[i]),
      far = Math.hypot(points[from + i][0] - x, points[from + i][1] - y)
    if (far > error) {
      error = far
      at = from + i
    }
  }
  return { error, at }
}

/** One step of Newton's method on each parameter, towards the nearest place on the curve. */
function refine(points: readonly Point[], from: number, u: Float64Array, [a, b, c, d]: Curve): void {
  for (let i = 1; i < u.length - 1; i++) {
    const t = u[i],
      s = 1 - t
    const [x, y] = minus(on([a, b, c, d], t), points[from + i])
    const v = (k: 0 | 1) => 3 * (s * s * (b[k] - a[k]) + 2 * s * t * (c[k] - b[k]) + t * t * (d[k] - c[k]))
    const w = (k: 0 | 1) => 6 * (s * (c[k] - 2 * b[k] + a[k]) + t * (d[k] - 2 * c[k] + b[k]))
    const vx = v(0),
      vy = v(1),
      slope = vx * vx + vy * vy + x * w(0) + y * w(1)
    if (slope > 0) u[i] = Math.min(1, Math.max(0, t - (x * vx + y * vy) / slope))
  }
}
