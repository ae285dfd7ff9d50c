/** Haze and water of a new sky in other lights: the old air and the old sky lie in the light that the land has now, the new air is as light as its sky. */
import { inverted, multiply, times } from '../colour/adaptation'
import { type AdjustmentOf } from '../compose/adjustments/registry'
import { gainsOf } from '../compose/adjustments/relight'
import { balanceOf } from '../compose/adjustments/whiteBalance'
import { type SkyLikeLand } from './skyLikeLand'

export interface Lights extends SkyLikeLand {
  /** On the land. */ readonly relight: AdjustmentOf<'relight'>
}
const UNTOUCHED: SkyLikeLand = {
  exposure: { kind: 'exposure', stops: 0 },
  whiteBalance: { kind: 'whiteBalance', temperature: 0, tint: 0 },
}
/** As haze and water are planned: the land follows the sky whole, and the sky is as it came. */
export const plannedLights = (relight: AdjustmentOf<'relight'>): Lights => ({
  ...UNTOUCHED,
  relight: { ...relight, tone: 1, colour: 1, direct: 1 },
})

type Lit = AdjustmentOf<'haze'> | AdjustmentOf<'reflection'>

/** What was right in some lights, in others. */
export function inOtherLights<T extends Lit>(adjustment: T, from: Lights, to: Lights): T {
  const [before, now] = [from, to].map(({ relight }) => gainsOf(relight)),
    was = held(adjustment.was.map((v, c) => v * (now[c] / before[c])))
  if (adjustment.kind === 'reflection') return { ...adjustment, was }
  const stops = to.exposure.stops - from.exposure.stops
  return { ...adjustment, was, air: held(balanced(adjustment.air, from, to).map((v) => v * 2 ** stops)) }
}
function balanced(colour: readonly number[], { whiteBalance: from }: Lights, { whiteBalance: to }: Lights) {
  if (from.temperature === to.temperature && from.tint === to.tint) return colour
  return times(multiply(balanceOf(to), inverted(balanceOf(from))), colour)
}
/** What the fields take. */
const held = (values: readonly number[]) => values.map((v) => Math.min(8, Math.max(0, v)))
