/**
 * How far local colours and samples are to be relied on, place by place: known pixels near the unknown ones are told as if they were not known, and
 * what each makes of them is compared with the truth (leave one out; common practice).
 */
import { mapInto } from '../raster/mapInto'
import { type Size } from '../raster/picture'
import { nearAny } from '../raster/nearAny'
import { type Level } from './level'
import { EMPTY, FULL } from './localColours'

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
    means = meansNear(ring, picture),
    errorOf = (coverage: Float32Array) => {
      const errors = new Float32Array(ring.length)
      for (let i = 0; i < errors.length; i++) if (ring[i]) errors[i] = (coverage[i] - alpha[i]) ** 2
      return means(errors)
    }
  const byColours = errorOf(colours),
    bySamples = errorOf(samples)
  return mapInto(byColours, byColours, (a, i) => {
    const forSamples = PRIOR * (a + FLOOR) ** 2
    return forSamples / (forSamples + (bySamples[i] + FLOOR) ** 2)
  })
}

/** Means of what a ring tells, over a neighbourhood; where none of it is near, of all. */
function meansNear(ring: Uint8Array, size: Size): (values: Float32Array) => Float32Array {
  const share = smoothed(Float32Array.from(ring), size)
  let count = 0
  for (let i = 0; i < ring.length; i++) count += ring[i]
  return (values) => {
    let sum = 0
    for (let i = 0; i < ring.length; i++) if (ring[i]) sum += values[i]
    const told = smoothed(values, size),
      all = count ? sum / count : 0
    return mapInto(told, told, (v, i) => (v + FAINT * all) / (share[i] + FAINT))
  }
}
const FAINT = 1e-4

/** Three means over squares of 2 · AROUND + 1 px; zero lies beyond the borders. */
function smoothed(from: Float32Array, { width, height }: Size): Float32Array {
  let now = from
  for (let turn = 0; turn < 3; turn++) now = meanAlong(meanAlong(now, width, height, 1, width), height, width, width, 1)
  return now
}
function meanAlong(from: Float32Array, length: number, lines: number, step: number, next: number): Float32Array {
  const out = new Float32Array(from.length)
  for (let line = 0; line < lines; line++) {
    let sum = 0
    for (let k = -AROUND; k < length; k++) {
      if (k + AROUND < length) sum += from[line * next + (k + AROUND) * step]
      if (k - AROUND - 1 >= 0) sum -= from[line * next + (k - AROUND - 1) * step]
      if (k >= 0) out[line * next + k * step] = sum / (2 * AROUND + 1)
    }
  }
  return out
}
