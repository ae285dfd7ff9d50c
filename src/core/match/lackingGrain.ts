/** What a thing lacks of the grain of the place it is put into. Variances of grain add up. */
import { grainAt } from '../compose/adjustments/grain'
import { type AdjustmentOf } from '../compose/adjustments/registry'
import { deviationAt, type Grain } from './grain'

/** Grain below this cannot be told from what compression leaves, levels. */
const TELLABLE = 0.4

/** The adjustment that adds it; null where nothing is lacking. @param tone of the thing, luma 0-1 @param own deviation it has already, levels */
export function lackingGrain(place: Grain, tone: number, own: number): AdjustmentOf<'grain'> | null {
  const lacking = Math.sqrt(Math.max(0, deviationAt(place, tone) ** 2 - own ** 2))
  if (lacking < TELLABLE) return null
  const amount = Math.min(1, lacking / 255 / grainAt(1, tone))
  return { kind: 'grain', amount: Math.round(1e4 * amount) / 1e4, size: 1, coloured: false, seed: 1 }
}
