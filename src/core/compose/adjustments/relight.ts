import { numbers, number } from '../../fields/fields'
import { type Adjustment, luma } from './adjustment'

/** Beyond this a picture is only noise or white. */
const LEAST = 1 / 64,
  MOST = 64

interface NewLight {
  tone: number
  colour: number
  direct: number
  light: readonly number[]
  ambient: readonly number[]
  sun: readonly number[]
}
/** What each channel is multiplied by, linear. */
export function gainsOf({ tone, colour, direct, light, ambient, sun }: NewLight): readonly number[] {
  const gain = light.map((from, c) => held((ambient[c] + direct * sun[c]) / Math.max(1e-3, from))),
    lightness = luma(gain[0], gain[1], gain[2])
  return gain.map((by) => lightness ** tone * (by / lightness) ** colour)
}

/**
 * The light of another sky on the land. `light` is what fell on it (linear, all channels), `ambient` what the new sky gives from everywhere and `sun`
 * what its sun adds. 0-1: `tone` how far lightness follows, `colour` how far colour does, `direct` how much of the new sun counts.
 */
export const relight: Adjustment<'relight', NewLight> = {
  kind: 'relight',
  values: 'linear',
  fields: {
    tone: number(0, 1, 1),
    colour: number(0, 1, 1),
    direct: number(0, 1, 1),
    light: numbers(0, 8, 3, [1, 1, 1]),
    ambient: numbers(0, 8, 3, [1, 1, 1]),
    sun: numbers(0, 8, 3, [0, 0, 0]),
  },
  channels(record) {
    const [red, green, blue] = gainsOf(record)
    if (red === 1 && green === 1 && blue === 1) return null
    return [(v) => v * red, (v) => v * green, (v) => v * blue]
  },
}

const held = (gain: number): number => Math.min(MOST, Math.max(LEAST, gain))
