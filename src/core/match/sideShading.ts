/**
 * How much lighter a thing is on one side than on the other: its log luminance against how far its outline faces that side (compose/facing.ts), by least
 * squares. What is lit from both sides alike, or has colours that say nothing, has none.
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { luma } from '../compose/adjustments/adjustment'
import { facingPer } from '../compose/facing'
import { gaussianBlur } from '../raster/gaussian'
import { type Matte, type Picture } from '../raster/picture'

/** Added to luminance, so that grain in the dark does not count. */
const DARK = 0.01
/** What is covered less than this is not the thing alone, 0-255. */
const WHOLE = 250

/** Stops from the middle to where the outline faces right; negative where its left is lighter. @param radius how far in from the outline the thing is round, px */
export function sideShading({ width, height, data }: Picture, cover: Matte, radius: number): number {
  const sigma = Math.max(1, radius / 2),
    step = Math.max(1, Math.round(sigma / 4)),
    blurred = gaussianBlur(cover, sigma).data,
    by = -facingPer(sigma, step) / 255
  let count = 0,
    sumF = 0,
    sumL = 0,
    sumFF = 0,
    sumFL = 0
  for (let y = 0; y < height; y++)
    for (let x = step, i = y * width + step; x < width - step; x++, i++) {
      if (cover.data[i] < WHOLE) continue
      const facing = by * (blurred[i + step] - blurred[i - step]),
        light = Math.log2(
          DARK + luma(LINEAR_OF_BYTE[data[4 * i]], LINEAR_OF_BYTE[data[4 * i + 1]], LINEAR_OF_BYTE[data[4 * i + 2]]),
        )
      count++
      sumF += facing
      sumL += light
      sumFF += facing * facing
      sumFL += facing * light
    }
  const spread = sumFF - (sumF * sumF) / count
  return count && spread > 0 ? (sumFL - (sumF * sumL) / count) / spread : 0
}
