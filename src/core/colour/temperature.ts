/**
 * Correlated colour temperature of a light: the nearest place on the Planckian line in CIE 1960 u, v, and how far beside it the light lies.
 * Source of the line, 1000 to 15 000 K: Krystek, "An algorithm to calculate correlated colour temperature", Color Research and Application 10 (1985).
 */
import { RGB_TO_XYZ, times, uvOf } from './adaptation'

/** The line is known so far, kelvin. */
const COLDEST = 1000,
  HOTTEST = 15_000

/** CIE 1960 u, v of a black body of some kelvin (held to 1000-15 000). */
export function planckian(kelvin: number): readonly [u: number, v: number] {
  const t = Math.min(HOTTEST, Math.max(COLDEST, kelvin))
  return [
    (0.860117757 + 1.54118254e-4 * t + 1.28641212e-7 * t * t) / (1 + 8.42420235e-4 * t + 7.08145163e-7 * t * t),
    (0.317398726 + 4.22806245e-5 * t + 4.20481691e-8 * t * t) / (1 - 2.89741816e-5 * t + 1.61456053e-7 * t * t),
  ]
}

/** Of linear sRGB: kelvin (held to 1000-15 000), and how far above the line (green, +) or below it (magenta, −) it lies, in CIE 1960 u, v. Null for black. */
export function temperatureOf(red: number, green: number, blue: number): { kelvin: number; tint: number } | null {
  const xyz = times(RGB_TO_XYZ, [red, green, blue])
  return xyz[1] > 0 ? temperatureAt(...uvOf(xyz)) : null
}

/** The same of CIE 1960 u, v. */
export function temperatureAt(u: number, v: number): { kelvin: number; tint: number } {
  const away = (mired: number) => {
    const [pu, pv] = planckian(1e6 / mired)
    return Math.hypot(u - pu, v - pv)
  }
  // Steps of a mired are even to the eye; the distance has one valley over the line's length.
  let from = 1e6 / HOTTEST,
    to = 1e6 / COLDEST
  while (to - from > 1e-3) {
    const a = from + (to - from) / 3,
      b = to - (to - from) / 3
    if (away(a) < away(b)) to = b
    else from = a
  }
  const mired = (from + to) / 2,
    [, pv] = planckian(1e6 / mired)
  return { kelvin: 1e6 / mired, tint: Math.sign(v - pv) * away(mired) }
}
