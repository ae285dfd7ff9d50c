/** Adjustments that treat each channel by itself, as tables in the kernels' memory. */
import { fromLinear, toLinear } from '../colour/srgb'
import { type KernelStack } from '../kernels'
import { adjustmentOf, type AdjustmentRecord } from './adjustments/registry'
import { CURVE_STEPS } from './tables'

/** Adjustments whose tables are kept, and the room for one table. */
const TONES_KEPT = 24,
  TONE_BYTES = (CURVE_STEPS + 1) * 4

export class ToneTables {
  private readonly known: { key: string; places: readonly number[] }[] = []
  private readonly room: number
  private made = 0

  constructor(private readonly stack: KernelStack) {
    this.room = stack.take(TONES_KEPT * 3 * TONE_BYTES)
  }

  /** The three curves of an adjustment as tables over what colours are blended in, laid into the kernels' memory; null where they change nothing. */
  of(record: AdjustmentRecord, linear: boolean): readonly number[] | null {
    const key = `${linear} ${JSON.stringify(record)}`
    const known = this.known.find((entry) => entry?.key === key)
    if (known) return known.places
    const { channels, values } = adjustmentOf(record),
      curves = channels!(record)
    if (!curves) return null
    const inLinear = values === 'linear' || (values === 'blending' && linear),
      clamp = (v: number) => (v > 0 ? (v < 1 ? v : 1) : 0)
    const made: Float32Array[] = []
    curves.forEach((curve, c) => {
      const same = curves.indexOf(curve)
      made.push(
        same < c
          ? made[same]
          : Float32Array.from({ length: CURVE_STEPS + 1 }, (_, i) => {
              const v = linear ? (i / CURVE_STEPS) ** 2 : i / CURVE_STEPS
              if (linear === inLinear) return clamp(curve(v))
              return linear ? toLinear(clamp(curve(fromLinear(v)))) : fromLinear(clamp(curve(toLinear(v))))
            }),
      )
    })
    // The oldest place is written anew: a slider that moves makes many.
    const slot = this.made++ % TONES_KEPT,
      places = [0, 1, 2].map((c) => this.room + (slot * 3 + c) * TONE_BYTES)
    made.forEach((table, c) => this.stack.floats(places[c], CURVE_STEPS + 1).set(table))
    this.known[slot] = { key, places }
    return places
  }
}
