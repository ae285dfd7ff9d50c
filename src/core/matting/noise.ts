import { LINEAR_OF_BYTE } from '../colour/srgb'
import { countSet } from '../raster/countSet'
import { type Picture } from '../raster/picture'

/** Grain is what varies in the calmest places: this share of the windows varies less. */
const CALM = 0.1
const LEAST = 1e-9,
  SAMPLES = 20_000
/** One row in so many is looked at. */
const EVERY = 3

/** Variance of grain where `mask` is 1, linear colours squared: of 3×3 windows, the calmest tenth. */
export function noiseOf(picture: Picture, mask: Uint8Array): number {
  const { width, height } = picture,
    found: number[] = [],
    step = Math.max(1, Math.floor(countSet(mask) / EVERY / SAMPLES))
  for (let y = 1, seen = 0; y < height - 1; y += EVERY) {
    for (let i = y * width + 1, end = (y + 1) * width - 1; i < end; i++)
      if (mask[i] && seen++ % step === 0) found.push(varianceAt(picture, i))
  }
  return found.length ? Math.max(LEAST, Float64Array.from(found).sort()[Math.floor(found.length * CALM)]) : LEAST
}

/** Variance of the 3×3 window around a pixel that is not on the border, linear colours squared, the mean of the channels. */
export function varianceAt({ width, data }: Picture, i: number): number {
  let variance = 0
  for (let c = 0; c < 3; c++) {
    let sum = 0,
      squares = 0
    for (let dy = -width; dy <= width; dy += width)
      for (let dx = -1; dx <= 1; dx++) {
        const v = LINEAR_OF_BYTE[data[(i + dy + dx) * 4 + c]]
        sum += v
        squares += v * v
      }
    variance += squares / 9 - (sum / 9) ** 2
  }
  return variance / 3
}
