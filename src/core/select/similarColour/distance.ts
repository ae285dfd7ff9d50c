import { labDifferenceTo, labOf } from '../../colour/lab'
import { type Picture, words } from '../../raster/picture'
import { type Metric } from '../../steps/similarColour'

export type Colour = readonly [red: number, green: number, blue: number, alpha: number]

/** Mean colour (0-255, rounded) of the patch × patch pixels around pixel (x, y), cut at the picture's edges; what shows less counts less. */
export function patchColour(picture: Picture, x: number, y: number, patch: number): Colour {
  const reach = (patch - 1) / 2
  const sum = [0, 0, 0],
    { data, width, height } = picture
  let alpha = 0,
    count = 0
  for (let j = Math.max(0, y - reach); j <= Math.min(height - 1, y + reach); j++) {
    for (let i = Math.max(0, x - reach); i <= Math.min(width - 1, x + reach); i++, count++) {
      const at = (j * width + i) * 4
      for (let c = 0; c < 3; c++) sum[c] += data[at + c] * data[at + 3]
      alpha += data[at + 3]
    }
  }
  const [red, green, blue] = sum.map((s) => (alpha ? Math.round(s / alpha) : 0))
  return [red, green, blue, Math.round(alpha / count)]
}

/**
 * How far each pixel's colour lies from the picked one, 0-255.
 * "channel": the greatest difference of any channel, alpha included (common practice), so "within ±tolerance" is distance ≤ tolerance.
 * "perceptual": CIE76 difference (CIELAB), 100 units to 255, rounded up; a different alpha counts as in "channel".
 */
export function colourDistance(picture: Picture, [red, green, blue, alpha]: Colour, metric: Metric): Uint8Array {
  const pixels = words(picture)
  const out = new Uint8Array(pixels.length)
  if (metric === 'channel') {
    const from = (value: number) => Uint8Array.from({ length: 256 }, (_, v) => Math.abs(v - value))
    const reds = from(red),
      greens = from(green),
      blues = from(blue),
      alphas = from(alpha)
    for (let i = 0; i < pixels.length; i++) {
      const word = pixels[i]
      const a = reds[word & 255],
        b = greens[(word >>> 8) & 255],
        c = blues[(word >>> 16) & 255],
        d = alphas[word >>> 24]
      const ab = a > b ? a : b,
        cd = c > d ? c : d
      out[i] = ab > cd ? ab : cd
    }
    return out
  }
  const difference = labDifferenceTo(labOf(red, green, blue))
  let last = -1,
    lastDistance = 0
  for (let i = 0; i < pixels.length; i++) {
    const word = pixels[i]
    if (word !== last) {
      last = word
      lastDistance = Math.max(Math.min(255, Math.ceil(difference(word) * 2.55 - 0.01)), Math.abs((word >>> 24) - alpha))
    }
    out[i] = lastDistance
  }
  return out
}
