/**
 * Tone curves through points, without overshoot: monotone piecewise cubics.
 * Source: Fritsch and Carlson, "Monotone Piecewise Cubic Interpolation", SIAM J. Numer. Anal. 17 (1980).
 */
import { type Field } from '../../fields/fields'
import { type Adjustment, ownThenAll } from './adjustment'

export type CurvePoints = readonly (readonly [number, number])[]
export const PLAIN_CURVE: CurvePoints = [
  [0, 0],
  [1, 1],
]
const MOST_POINTS = 32

const isCurve = (v: unknown): v is CurvePoints =>
  Array.isArray(v) &&
  v.length >= 1 &&
  v.length <= MOST_POINTS &&
  v.every((p) => Array.isArray(p) && p.length === 2 && p.every((n) => typeof n === 'number' && n >= 0 && n <= 1))
const curveField: Field<CurvePoints> = {
  takes: `1 to ${MOST_POINTS} points [in 0-1, out 0-1]`,
  fallback: PLAIN_CURVE,
  accepts: isCurve,
}

const plain = (points: CurvePoints): boolean => points.length === 2 && points.every(([x, y], i) => x === i && y === i)

/** The curve through the points (in any order; of several at one place the last counts), level beyond the first and last. */
export function curveThrough(points: CurvePoints): (v: number) => number {
  const at = new Map(points)
  const xs = [...at.keys()].sort((a, b) => a - b),
    ys = xs.map((x) => at.get(x)!),
    last = xs.length - 1
  if (last === 0) return () => ys[0]
  const slopes = xs.slice(1).map((x, i) => (ys[i + 1] - ys[i]) / (x - xs[i]))
  const tangents = xs.map((_, i) =>
    i === 0
      ? slopes[0]
      : i === last
        ? slopes[last - 1]
        : slopes[i - 1] * slopes[i] <= 0
          ? 0
          : (slopes[i - 1] + slopes[i]) / 2,
  )
  for (let i = 0; i < last; i++) {
    if (slopes[i] === 0) {
      tangents[i] = tangents[i + 1] = 0
      continue
    }
    const a = tangents[i] / slopes[i],
      b = tangents[i + 1] / slopes[i],
      length = Math.hypot(a, b)
    if (length > 3) {
      tangents[i] = (3 * a * slopes[i]) / length
      tangents[i + 1] = (3 * b * slopes[i]) / length
    }
  }
  return (v) => {
    if (v <= xs[0]) return ys[0]
    if (v >= xs[last]) return ys[last]
    const i = xs.findIndex((x) => x > v) - 1,
      h = xs[i + 1] - xs[i],
      t = (v - xs[i]) / h,
      t2 = t * t,
      t3 = t2 * t
    return (
      (2 * t3 - 3 * t2 + 1) * ys[i] +
      (t3 - 2 * t2 + t) * h * tangents[i] +
      (3 * t2 - 2 * t3) * ys[i + 1] +
      (t3 - t2) * h * tangents[i + 1]
    )
  }
}

/** First each channel's own, then the one for all. */
export const curves: Adjustment<
  'curves',
  { all: CurvePoints; red: CurvePoints; green: CurvePoints; blue: CurvePoints }
> = {
  kind: 'curves',
  values: 'encoded',
  fields: { all: curveField, red: curveField, green: curveField, blue: curveField },
  channels: (values) => ownThenAll(values, plain, curveThrough),
}
