/**
 * How far local colours and samples are to be relied on, place by place: known pixels near the unknown ones are told as if they were not known, and
 * what each makes of them is compared with the truth (leave one out; common practice).
 */
import { EMPTY, FULL } from '../raster/coverage'
import { mapInto } from '../raster/mapInto'
import { type Size } from '../raster/picture'
import { nearAny } from '../raster/nearAny'
import { type Level } from './level'

/** Known pixels so near the unknown ones are tried, px; and errors are told over so many px around. */
const RING = 10,
  AROUND = 8
/** Squared errors of coverage below this are the same. */
const FLOOR = 0.01
/** Samples are relied on so many times as much as local colours where neither does better. */
const PRIOR = 2

/** A level whose known pixels near the unknown ones are taken for unknown, to be told from the others. */
export function triedAround({ picture, unknown, alpha }: Level): Level {
  const near = nearAny(unknown, (u) => u === 1, picture.width, picture.height, RING)
  return {
    picture,
    alpha,
    unknown: mapInto(near, near, (n, i) => unknown[i] | (n && (alpha[i] < EMPTY || alpha[i] > FULL) ? 1 : 0)),
  }
}

/** The share of the samples' answer in both together, 0-1, for each pixel of a level. @param colours coverage each makes of what was tried around it */
export function shareOfSamples(
  { picture, unknown, alpha }: Level,
  tried: Level,
  colours: Float32Array,
  samples: Float32Array,
): Float32Array {
  const ring = mapInto(new Uint8Array(unknown.length), unknown, (u, i) => tried.unknown[i] ^ u),
    told = smoothed(Float32Array.from(ring), picture),
    byColours = errorsNear(ring, told, colours, alpha, picture),
    bySamples = errorsNear(ring, told, samples, alpha, picture),
    share = byColours
  for (let i = 0; i < share.length; i++) {
    const forSamples = PRIOR * (byColours[i] + FLOOR) ** 2
    share[i] = forSamples / (forSamples + (bySamples[i] + FLOOR) ** 2)
  }
  return share
}

/** Mean squared errors of coverage on a ring, over a neighbourhood; where none of it is near, of all. @param told the ring's share of each neighbourhood */
function errorsNear(
  ring: Uint8Array,
  told: Float32Array,
  coverage: Float32Array,
  truth: Float32Array,
  size: Size,
): Float32Array {
  const errors = new Float32Array(ring.length)
  let sum = 0,
    count = 0
  for (let i = 0; i < errors.length; i++) {
    if (!ring[i]) continue
    errors[i] = (coverage[i] - truth[i]) ** 2
    sum += errors[i]
    count++
  }
  const near = smoothed(errors, size),
    all = count ? sum / count : 0
  for (let i = 0; i < near.length; i++) near[i] = (near[i] + FAINT * all) / (told[i] + FAINT)
  return near
}
const FAINT = 1e-4

/** Three means over squares of 2 · AROUND + 1 px; zero lies beyond the borders. */
function smoothed(from: Float32Array, { width, height }: Size): Float32Array {
  let now = from
  for (let turn = 0; turn < 3; turn++) now = meanDown(meanAcross(now, width, height), width, height)
  return now
}
function meanAcross(from: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(from.length)
  for (let y = 0, row = 0; y < height; y++, row += width) {
    let sum = 0
    for (let x = -AROUND; x < width; x++) {
      if (x + AROUND < width) sum += from[row + x + AROUND]
      if (x - AROUND - 1 >= 0) sum -= from[row + x - AROUND - 1]
      if (x >= 0) out[row + x] = sum / (2 * AROUND + 1)
    }
  }
  return out
}
/** Row by row, as they lie in memory. */
function meanDown(from: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(from.length),
    sums = new Float64Array(width)
  for (let y = -AROUND; y < height; y++) {
    const next = y + AROUND,
      last = y - AROUND - 1
    if (next < height) for (let x = 0, i = next * width; x < width; x++, i++) sums[x] += from[i]
    if (last >= 0) for (let x = 0, i = last * width; x < width; x++, i++) sums[x] -= from[i]
    if (y >= 0) for (let x = 0, i = y * width; x < width; x++, i++) out[i] = sums[x] / (2 * AROUND + 1)
  }
  return out
}
