/**
 * From which side light falls on what stands in a picture: things are round more often than hollow, so on the way across them it mostly
 * gets lighter towards the light. On ray-traced places with a sun (training/scenes/places.py) its side is told in four of five (docs/QUALITY.md).
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { luma } from '../compose/adjustments/adjustment'
import { type Matte, type Picture } from '../raster/picture'

/** Differences of log luminance between neighbours: below it is grain, above it is where one thing ends and another begins. */
const LEAST = 0.004,
  MOST = 0.15
/** Added to luminance, so that grain in the dark does not count. */
const DARK = 0.01
/** What is as near as this to the sky does not count, px. */
const AWAY = 3
/** Light comes from a side when this much more gets lighter that way than the other. */
const SIDED = 0.02
export const sideOf = (side: number | null): 'left' | 'right' | null =>
  side === null || Math.abs(side) < SIDED ? null : side < 0 ? 'left' : 'right'

/** So many differences are needed. */
const ENOUGH = 2000

/** −1 (left) to 1 (right): the share of ways that get lighter to the right, less those to the left. Null where too little can be seen. @param picture some 100 000 to a million pixels; @param sky its coverage of sky */
export function lightSideOf({ width, height, data }: Picture, sky: Matte): number | null {
  const log = new Float32Array(width * height),
    calm = new Float32Array(width * height)
  for (let i = 0; i < log.length; i++)
    log[i] = Math.log(
      DARK + luma(LINEAR_OF_BYTE[data[4 * i]], LINEAR_OF_BYTE[data[4 * i + 1]], LINEAR_OF_BYTE[data[4 * i + 2]]),
    )
  // Binomial, 5 × 5: what is left of grain.
  for (let y = 0; y < height; y++)
    for (let x = 2, i = y * width + 2; x < width - 2; x++, i++)
      calm[i] = (log[i - 2] + log[i + 2] + 4 * (log[i - 1] + log[i + 1]) + 6 * log[i]) / 16
  let lighter = 0,
    count = 0
  for (let y = AWAY; y < height - AWAY; y++)
    for (let x = AWAY, i = y * width + AWAY; x < width - AWAY; x++, i++) {
      if (
        sky.data[i] ||
        sky.data[i - AWAY] ||
        sky.data[i + AWAY] ||
        sky.data[i - AWAY * width] ||
        sky.data[i + AWAY * width]
      )
        continue
      const at = (j: number) =>
          (calm[j - 2 * width] + calm[j + 2 * width] + 4 * (calm[j - width] + calm[j + width]) + 6 * calm[j]) / 16,
        by = (at(i + 1) - at(i - 1)) / 2
      if (Math.abs(by) < LEAST || Math.abs(by) > MOST) continue
      lighter += Math.sign(by)
      count++
    }
  return count < ENOUGH ? null : lighter / count
}
