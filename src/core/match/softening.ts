/** Blur that a thing lacks, as the adjustment that adds it. */
import { type AdjustmentOf } from '../compose/adjustments/registry'

/** Blur (sigma, px) below this cannot be told from what the things themselves differ by. */
export const LEAST_BLUR = 0.6

/** @param sigma px; the adjustment's radius is two of them */
export const softening = (sigma: number): AdjustmentOf<'gaussianBlur'> => ({
  kind: 'gaussianBlur',
  radius: Math.round(20 * sigma) / 10,
})
