/** Gradients: where a point lies between two ends, for each of five forms, and stops along the way. Linear and radial as in SVG 2, "Gradients"; the others are common practice. */

export const RAMP_SHAPES = ['linear', 'radial', 'conic', 'mirrored', 'rhombus'] as const
export type RampShape = (typeof RAMP_SHAPES)[number]
/** What earlier versions called them. */
export const EARLIER_SHAPES: Readonly<Record<string, RampShape>> = {
  angle: 'conic',
  reflected: 'mirrored',
  diamond: 'rhombus',
}
type Point = readonly [number, number]

/**
 * The place 0-1 of a point. Linear: along the way, level beyond its ends. Radial and rhombus: distance from `from`, 1 at the distance of `to`.
 * Mirrored: as linear, on both sides of `from`. Conic: clockwise from the direction of `to`. Ends in one place: everything beyond it is 1.
 */
export function rampPlace(shape: RampShape, from: Point, to: Point): (x: number, y: number) => number {
  const dx = to[0] - from[0],
    dy = to[1] - from[1],
    square = dx * dx + dy * dy
  const clamp = (t: number): number => (t < 0 ? 0 : t > 1 ? 1 : t)
  if (square === 0) return (x, y) => (shape === 'linear' || x !== from[0] || y !== from[1] ? 1 : 0)
  const along = (x: number, y: number) => ((x - from[0]) * dx + (y - from[1]) * dy) / square
  const across = (x: number, y: number) => ((y - from[1]) * dx - (x - from[0]) * dy) / square
  switch (shape) {
    case 'linear':
      return (x, y) => clamp(along(x, y))
    case 'mirrored':
      return (x, y) => clamp(Math.abs(along(x, y)))
    case 'radial': {
      const length = Math.sqrt(square)
      return (x, y) => clamp(Math.hypot(x - from[0], y - from[1]) / length)
    }
    case 'rhombus':
      return (x, y) => clamp(Math.abs(along(x, y)) + Math.abs(across(x, y)))
    case 'conic':
      return (x, y) => {
        const turn = Math.atan2(across(x, y), along(x, y)) / (2 * Math.PI)
        return turn < 0 ? turn + 1 : turn
      }
  }
}

/** Values between stops: straight from one to the next, level beyond the first and last; two stops in one place make a step. @param stops places and values, each value of `width` numbers, any order */
export function stopTable(
  stops: readonly { readonly at: number; readonly value: readonly number[] }[],
  width: number,
  steps: number,
): Float32Array {
  const sorted = stops.map((stop, i) => ({ ...stop, i })).sort((a, b) => a.at - b.at || a.i - b.i)
  const table = new Float32Array((steps + 1) * width)
  for (let n = 0; n <= steps; n++) {
    const t = n / steps
    const next = sorted.findIndex((stop) => stop.at > t)
    const high = next < 0 ? sorted[sorted.length - 1] : sorted[next],
      low = next < 0 ? high : sorted[Math.max(0, next - 1)]
    const share = high.at > low.at ? Math.min(1, Math.max(0, (t - low.at) / (high.at - low.at))) : 0
    for (let c = 0; c < width; c++) table[n * width + c] = low.value[c] + (high.value[c] - low.value[c]) * share
  }
  return table
}
