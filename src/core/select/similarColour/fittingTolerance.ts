/** The tolerance a first pick takes from its own curve. */
import { type Picture } from '../../raster/picture'
import { type SimilarColourFields } from '../../steps/similarColour'
import { colourDistance, type Colour } from './distance'
import { connectedOrder, distanceOrder } from './joinOrder'
import { toleranceCurve } from './toleranceCurve'

/** An area is level while a step of tolerance adds at most this share of it, or of the canvas. */
const LEVEL = 0.01,
  STILL = 2e-5
/** A pick of less than this share of the canvas has only begun to spread through the grain. */
const BEGUN = 5e-4
/** From this share of the canvas on everything is taken: there is nothing left to tell apart. */
const ALL = 0.97
/** Where the area grows evenly and never rests; and no pick begins with more. */
const LEAST = 8,
  MOST = 64

/** Shorter stretches are chance: grain joins in leaps before a pick holds anything. */
const SHORTEST = 4

/**
 * The middle of the longest stretch of tolerances, before the first spill out of one, along which the area is level: within it the pick holds what
 * it was made on and nothing else.
 * @param ends how many pixels have joined at each tolerance (256 counts) @returns 0-255, whole
 */
export function restingTolerance(ends: Int32Array): number {
  const { shares, spills } = toleranceCurve(ends),
    full = shares.findIndex((share) => share >= ALL),
    end = full < 0 ? 255 : full
  let best = 0,
    middle = -1
  for (let from = 0, t = 1; t <= end; t++) {
    const more = shares[t] - shares[t - 1],
      level = t < end && shares[t - 1] >= BEGUN && more <= Math.max(STILL, LEVEL * shares[t - 1])
    if (level) continue
    const length = t - 1 - from
    if (length >= SHORTEST && length > best) {
      best = length
      middle = Math.round((from + t - 1) / 2)
    }
    if (best && spills.includes(t)) break
    from = t
  }
  return Math.min(MOST, middle >= 0 ? middle : Math.max(LEAST, end >> 1))
}

/** @param small the picture, or a smaller level of it, `scale` times smaller @param colour what is picked */
export function fittingTolerance(
  small: Picture,
  scale: number,
  colour: Colour,
  { at, metric, contiguous }: Pick<SimilarColourFields, 'at' | 'metric' | 'contiguous'>,
): number {
  const distance = colourDistance(small, colour, metric),
    place = (v: number, most: number) => Math.min(most - 1, Math.max(0, Math.floor(v / scale)))
  const work = contiguous
    ? connectedOrder(distance, small, place(at[0], small.width), place(at[1], small.height))
    : distanceOrder(distance)
  let step = work.next()
  while (!step.done) step = work.next()
  return restingTolerance(step.value.ends)
}
