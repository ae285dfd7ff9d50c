import { adaptation, type Matrix, multiply, RGB_TO_XYZ, type White, whiteOf, XYZ_TO_RGB } from '../../colour/adaptation'
import { number } from '../../fields/fields'
import { type Adjustment } from './adjustment'

/** The picture's white, D65, in mired, and how far the slider's ends move it: reciprocal degrees are even steps to the eye (common practice). */
const D65_MIRED = 1e6 / 6504,
  REACH_MIRED = 90
/** How far from the daylight line the tint's ends lie, in CIE 1960 v. */
export const TINT_REACH = 0.03

/** What the values move away from: the daylight line's white nearest to sRGB's. */
export const USUAL_WHITE = whiteOf(1e6 / D65_MIRED, 0)
/** The white of a balance's two values, -1 to 1. */
export const whiteAt = (temperature: number, tint: number): White =>
  whiteOf(1e6 / (D65_MIRED + REACH_MIRED * temperature), -TINT_REACH * tint)

/** What the values do to linear red, green, blue. */
export const balanceOf = ({ temperature, tint }: { readonly temperature: number; readonly tint: number }): Matrix =>
  multiply(XYZ_TO_RGB, multiply(adaptation(USUAL_WHITE, whiteAt(temperature, tint)), RGB_TO_XYZ))

/** Warmer and cooler, greener and more magenta: the white moves along the daylight line and across it; colours follow by Bradford adaptation. */
export const whiteBalance: Adjustment<'whiteBalance', { temperature: number; tint: number }> = {
  kind: 'whiteBalance',
  values: 'linear',
  fields: { temperature: number(-1, 1, 0), tint: number(-1, 1, 0) },
  kernel({ temperature, tint }) {
    if (temperature === 0 && tint === 0) return null
    const m = balanceOf({ temperature, tint })
    return { run: (kernels, at, count) => kernels.matrixRow(at, count, ...m) }
  },
}
