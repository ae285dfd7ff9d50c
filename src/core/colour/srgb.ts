/** sRGB transfer curve. Source: IEC 61966-2-1:1999; constants as in CSS Color Module Level 4, "Sample code for color conversions". */

/** Encoded value 0-1 to linear light 0-1. */
export const toLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
/** Linear light 0-1 to encoded value 0-1. */
export const fromLinear = (v: number): number => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055)

/** Linear light (0-1) of every 8-bit value. */
export const LINEAR_OF_BYTE: Float32Array = Float32Array.from({ length: 256 }, (_, v) => toLinear(v / 255))

const STEPS = 8192
/** The square root spreads the table's entries towards the dark end, where the curve is steep. */
const BYTE_OF_ROOT = Uint8Array.from({ length: STEPS + 1 }, (_, i) => Math.round(255 * fromLinear((i / STEPS) ** 2)))

/** Linear light (clamped to 0-1) to the nearest 8-bit value (within one step of the exact curve's rounding). */
export const byteOfLinear = (v: number): number =>
  BYTE_OF_ROOT[v <= 0 ? 0 : v >= 1 ? STEPS : (Math.sqrt(v) * STEPS + 0.5) | 0]
