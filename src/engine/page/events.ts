/** What the engine tells the page. */
import { type ToleranceCurve } from '@/core/select/similarColour/toleranceCurve'
import { type SharedPicture } from './protocol'

export interface EngineEvents {
  readonly progress: (what: string, fraction: number | null) => void
  readonly curve: (step: string, key: string, curve: ToleranceCurve) => void
  readonly histogram: (step: string, key: string, shares: readonly number[]) => void
  /** The composed layers changed: tiles of older epochs are stale. `partly`: the project is opening as it was left, and some of its pictures and masks are not there yet. */
  readonly layersChanged: (epoch: number, partly: boolean) => void
  /** Whether something of the layers shown is still being made: what is on the screen is not final. */
  readonly making: (something: boolean) => void
  readonly opened: (asset: string, picture: SharedPicture) => void
  readonly failed: (sentence: string) => void
}
