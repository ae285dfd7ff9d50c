import {
  adaptation,
  D65,
  multiply,
  RGB_TO_XYZ,
  times,
  uvOf,
  type White,
  whiteOf,
  XYZ_TO_RGB,
} from '../../colour/adaptation'
import { number } from '../../fields/fields'
import { type Adjustment } from './adjustment'

/** The picture's white, D65, in mired, and how far the slider's ends move it: reciprocal degrees are even steps to the eye (common practice). */
const D65_MIRED = 1e6 / 6504,
  REACH_MIRED = 90
/** How far from the daylight line the tint's ends lie, in CIE 1960 v. */
const TINT_REACH = 0.03

const USUAL = whiteOf(1e6 / D65_MIRED, 0)
const whiteAt = (temperature: number, tint: number): White =>
  whiteOf(1e6 / (D65_MIRED + REACH_MIRED * temperature), -TINT_REACH * tint)

/** The balance that makes grey of the colour of linear red, green, blue, as far as its values go. */
export function balanceTowards(red: number, green: number, blue: number): { temperature: number; tint: number } {
  const [u, v] = uvOf(times(RGB_TO_XYZ, [red, green, blue])),
    [greyU, greyV] = uvOf(D65),
    [usualU, usualV] = uvOf(USUAL),
    // Along the daylight line u grows with the mired; across it only v changes.
    wantedU = usualU + u - greyU
  let [cool, warm] = [-1, 1]
  for (let n = 0; n < 40; n++) {
    const middle = (cool + warm) / 2
    if (uvOf(whiteAt(middle, 0))[0] < wantedU) cool = middle
    else warm = middle
  }
  const temperature = (cool + warm) / 2,
    across = usualV + v - greyV - uvOf(whiteAt(temperature, 0))[1]
  return { temperature, tint: Math.max(-1, Math.min(1, -across / TINT_REACH)) }
}

/** Warmer and cooler, greener and more magenta: the white moves along the daylight line and across it; colours follow by Bradford adaptation. */
export const whiteBalance: Adjustment<'whiteBalance', { temperature: number; tint: number }> = {
  kind: 'whiteBalance',
  values: 'linear',
  fields: { temperature: number(-1, 1, 0), tint: number(-1, 1, 0) },
  kernel({ temperature, tint }) {
    if (temperature === 0 && tint === 0) return null
    const m = multiply(XYZ_TO_RGB, multiply(adaptation(USUAL, whiteAt(temperature, tint)), RGB_TO_XYZ))
    return { run: (kernels, at, count) => kernels.matrixRow(at, count, ...m) }
  },
}
