/** What a new sky needs, to be as light and of the same colour as the light on the land says, where the land follows it only part of the way. */
import { luma } from '../compose/adjustments/adjustment'
import { type AdjustmentOf } from '../compose/adjustments/registry'
import { gainsOf } from '../compose/adjustments/relight'
import { balanceTowards } from '../compose/adjustments/balanceTowards'

export interface SkyLikeLand {
  readonly exposure: AdjustmentOf<'exposure'>
  readonly whiteBalance: AdjustmentOf<'whiteBalance'>
}
const hundredths = (v: number): number => Math.round(100 * v) / 100 + 0

/** Nothing where the land follows the sky whole: one camera took both, then. */
export function skyLikeLand(relight: AdjustmentOf<'relight'>): SkyLikeLand {
  const now = gainsOf(relight),
    whole = gainsOf({ ...relight, tone: 1, colour: 1, direct: 1 }),
    [red, green, blue] = now.map((gain, c) => gain / whole[c]),
    { temperature, tint } = balanceTowards(red, green, blue)
  return {
    exposure: { kind: 'exposure', stops: hundredths(Math.log2(luma(red, green, blue))) },
    whiteBalance: { kind: 'whiteBalance', temperature: hundredths(temperature), tint: hundredths(tint) },
  }
}
