import { type Scratch } from '../raster/scratch'
import { type Level } from './level'

/** Coverage of the unknown pixels is pulled apart by this at most, where hardly anything is soft; looked at so far around, px. */
const MOST = 0.2
export const REACH = 8
/** Colours that tell this precisely are believed: half as much is pulled. */
const TELLING = 1000

/**
 * Least squares leave a veil over what is really full or empty: coverage is pulled from the middle, the less the more of the
 * surroundings is soft (gauze stays as it is) and the better colours tell. In place.
 * @param precision how well they do, for each pixel (localColours.ts)
 */
export function crisper(
  { picture: { width, height }, unknown, alpha }: Level,
  precision: Float32Array,
  room: Scratch,
): void {
  const sums = room.floats(width * height),
    softness = (i: number) => 4 * alpha[i] * (1 - alpha[i])
  for (let y = 0; y < height; y++) {
    const row = y * width
    let sum = 0
    for (let x = 0; x < Math.min(REACH, width); x++) sum += softness(row + x)
    for (let x = 0; x < width; x++) {
      if (x + REACH < width) sum += softness(row + x + REACH)
      if (x > REACH) sum -= softness(row + x - REACH - 1)
      sums[row + x] = sum
    }
  }
  const column = new Float64Array(width)
  for (let y = 0; y < Math.min(REACH, height); y++) for (let x = 0; x < width; x++) column[x] += sums[y * width + x]
  const pulled = room.floats(alpha.length),
    area = (2 * REACH + 1) ** 2
  pulled.set(alpha)
  for (let y = 0; y < height; y++) {
    if (y + REACH < height) for (let x = 0, i = (y + REACH) * width; x < width; x++, i++) column[x] += sums[i]
    if (y > REACH) for (let x = 0, i = (y - REACH - 1) * width; x < width; x++, i++) column[x] -= sums[i]
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (!unknown[i]) continue
      const value =
        0.5 + (alpha[i] - 0.5) * (1 + (MOST / (1 + precision[i] / TELLING)) * (1 - Math.min(1, column[x] / area) ** 2))
      pulled[i] = value < 0 ? 0 : value > 1 ? 1 : value
    }
  }
  alpha.set(pulled)
}
