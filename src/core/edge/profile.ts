/** The edge seen across: mean coverage at each distance from the boundary, along all of it. */
import { type Matte } from '../raster/picture'
import { unroll } from './ribbon'

/** At most so many places along are looked at. */
const MOST_PLACES = 6000

/** Coverage 0-1 from `reach` px inside to `reach` px outside, px by px; null where there is no boundary. @param reach whole px */
export function acrossEdge(matte: Matte, reach: number): Float32Array | null {
  const { length, places } = unroll(matte)
  if (!length) return null
  const sums = new Float64Array(2 * reach + 1),
    every = Math.max(1, Math.floor(length / MOST_PLACES))
  let count = 0
  for (let k = 0; k < length; k += every, count++)
    for (let d = -reach; d <= reach; d++)
      sums[d + reach] += coverage(
        matte,
        places[4 * k] + d * places[4 * k + 2],
        places[4 * k + 1] + d * places[4 * k + 3],
      )
  return Float32Array.from(sums, (sum) => sum / count)
}

/** Bilinear between the middles of pixels; beyond the border as at it. */
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
