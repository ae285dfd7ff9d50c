import { LINEAR_OF_BYTE } from '../colour/srgb'
import { countSet } from '../raster/countSet'
import { type Picture } from '../raster/picture'

/** Grain is what varies in the calmest places: this share of the windows varies less. */
const CALM = 0.1
const LEAST = 1e-9,
  SAMPLES = 20_000
/** One row in so many is looked at. */
const EVERY = 3

/** Variance of grain where `mask` is 1, linear colours squared: of 3×3 windows, the calmest tenth. @param set how many pixels of the mask are 1 */
export function noiseOf(picture: Picture, mask: Uint8Array, set = countSet(mask)): number {
  const { width, height } = picture,
    step = Math.max(1, Math.floor(set / EVERY / SAMPLES)),
    found = new Float64Array(2 * EVERY * SAMPLES)
  let count = 0
  for (let y = 1, skip = 0, next = mask.indexOf(1); y < height - 1 && next >= 0; y += EVERY) {
    const end = (y + 1) * width - 1
    if (next < y * width + 1) next = mask.indexOf(1, y * width + 1)
    while (next >= 0 && next < end) {
      // As far as the mask goes on: one pixel in so many.
      let last = next
      while (last < end && mask[last]) last++
      for (; next + skip < last; skip += step) found[count++] = varianceAt(picture, next + skip)
      skip -= last - next
      next = mask.indexOf(1, last)
    }
  }
  return count ? Math.max(LEAST, found.subarray(0, count).sort()[Math.floor(count * CALM)]) : LEAST
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
