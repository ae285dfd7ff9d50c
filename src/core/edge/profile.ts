/** The edge seen across: mean coverage at each distance from the boundary, along all of it. */
import { type Matte } from '../raster/picture'
import { unroll } from './ribbon'

/** At most so many places along are looked at. */
const MOST_PLACES = 6000

/** This far from the boundary nothing of it is left: there lie the levels that it goes between, px. */
const LEVEL = 4
/** Levels nearer to each other than this are no edge. */
const LEAST_FALL = 0.2

/**
 * Coverage from `reach` px inside to `reach` px outside, px by px, as shares of the way between what lies there on average: 1 inside, 0 outside.
 * What lies beyond the picture does not count. Null where there is no boundary. @param reach whole px
 */
export function acrossEdge(matte: Matte, reach: number): Float32Array | null {
  const { length, places } = unroll(matte)
  if (!length) return null
  const sums = new Float64Array(2 * reach + 1),
    counts = new Uint32Array(2 * reach + 1),
    every = Math.max(1, Math.floor(length / MOST_PLACES))
  for (let k = 0; k < length; k += every)
    for (let d = -reach; d <= reach; d++) {
      const x = places[4 * k] + d * places[4 * k + 2],
        y = places[4 * k + 1] + d * places[4 * k + 3]
      if (x < 0 || y < 0 || x > matte.width || y > matte.height) continue
      sums[d + reach] += coverage(matte, x, y)
      counts[d + reach]++
    }
  if (counts.includes(0)) return null
  const means = sums.map((sum, i) => sum / counts[i]),
    level = (part: Float64Array) => part.reduce((a, b) => a + b) / part.length,
    inside = level(means.subarray(0, LEVEL)),
    outside = level(means.subarray(-LEVEL))
  return inside - outside < LEAST_FALL
    ? null
    : Float32Array.from(means, (mean) => Math.max(0, Math.min(1, (mean - outside) / (inside - outside))))
}

/** Bilinear between the middles of pixels. */
function coverage({ data, width, height }: Matte, x: number, y: number): number {
  const u = Math.max(0, Math.min(width - 1, x - 0.5)),
    v = Math.max(0, Math.min(height - 1, y - 0.5)),
    i = Math.min(width - 2, Math.floor(u)),
    j = Math.min(height - 2, Math.floor(v))
  if (i < 0 || j < 0) return data[Math.round(v) * width + Math.round(u)] / 255
  const s = u - i,
    t = v - j,
    at = j * width + i
  return (
    ((data[at] * (1 - s) + data[at + 1] * s) * (1 - t) + (data[at + width] * (1 - s) + data[at + width + 1] * s) * t) /
    255
  )
}
