import { number } from '../../fields/fields'
import { type Adjustment } from './adjustment'

/** How far the ends of the sliders go, as powers of two of the exponent. */
export const BRIGHTNESS_REACH = 1.5,
  CONTRAST_REACH = 1.4

/** Brightness bends the tones, contrast steepens them about the middle grey; black, white and (for contrast) the middle stay, so nothing clips. */
export const brightnessContrast: Adjustment<'brightnessContrast', { brightness: number; contrast: number }> = {
  kind: 'brightnessContrast',
  values: 'encoded',
  fields: { brightness: number(-1, 1, 0), contrast: number(-1, 1, 0) },
  channels({ brightness, contrast }) {
    if (brightness === 0 && contrast === 0) return null
    const bend = 2 ** (-BRIGHTNESS_REACH * brightness),
      steep = 2 ** (CONTRAST_REACH * contrast)
    const curve = (v: number) => {
      const lit = v ** bend
      return lit < 0.5 ? 0.5 * (2 * lit) ** steep : 1 - 0.5 * (2 - 2 * lit) ** steep
    }
    return [curve, curve, curve]
  },
}
