import { type Picture } from '../raster/picture'

const BINS = 24
/** Where several hues are equally rare, the tint is this one: violet. */
const PREFERRED = 265

/** The hue (degrees, HSL) a picture has least of, weighted by saturation and smoothed over neighbours: a tint of it can be seen anywhere on the picture. */
export function rarestHue({ data }: Picture): number {
  const weights = new Float64Array(BINS)
  for (let i = 0; i < data.length; i += 4) {
    const r = data[i],
      g = data[i + 1],
      b = data[i + 2]
    const max = Math.max(r, g, b),
      min = Math.min(r, g, b),
      chroma = max - min
    if (chroma < 8 || data[i + 3] < 128) continue
    const sixth = max === r ? ((g - b) / chroma + 6) % 6 : max === g ? (b - r) / chroma + 2 : (r - g) / chroma + 4
    weights[Math.floor((sixth / 6) * BINS) % BINS] += chroma
  }
  const total = weights.reduce((a, b) => a + b, 0) || 1
  let best = PREFERRED,
    least = Infinity
  for (let bin = 0; bin < BINS; bin++) {
    const hue = ((bin + 0.5) * 360) / BINS
    let near = 0
    for (let k = -2; k <= 2; k++) near += weights[(bin + k + BINS) % BINS] * (3 - Math.abs(k))
    const away = Math.abs(((hue - PREFERRED + 540) % 360) - 180)
    const score = near / total + 0.0004 * away
    if (score < least) {
      least = score
      best = hue
    }
  }
  return best
}
