/** How far the outline of what lies below faces a direction: the slope of its cover, blurred. */
import { type Size } from '../raster/picture'
import { blurGaussian } from './blur'
import { type Fetch } from './fetch'
import { type Region } from './region'
import { type Room } from './room'

/** The slope is taken over this share of the blur's sigma either way, and at most so many px. */
const STEP = 0.25,
  LONGEST = 8
/** Below this a pixel's own width blurs more, px. */
const LEAST_SIGMA = 0.5

/** How far an outline faces the way that cover falls by one over `step` px to either side, where it was blurred by `sigma` px: 1 at a straight one across it. */
export const facingPer = (sigma: number, step: number): number => (sigma * Math.sqrt(2 * Math.PI)) / (2 * step)

/**
 * 1 at a straight outline that faces the direction, −1 at one that faces away, 0 in the middle and outside; a float a pixel.
 * @param fetch gives premultiplied pixels of any region @param sigma of the blur, canvas px @param towards a unit vector
 */
export function facingOf(
  room: Room,
  fetch: Fetch,
  region: Region,
  sigma: number,
  [dx, dy]: readonly [number, number],
  canvas: Size,
): Float32Array {
  const here = Math.max(LEAST_SIGMA, sigma / 2 ** region.level),
    step = Math.max(1, Math.min(LONGEST, Math.round(STEP * here))),
    width = region.width + 2 * step,
    blurred = blurGaussian(
      room,
      fetch,
      { level: region.level, x: region.x - step, y: region.y - step, width, height: region.height + 2 * step },
      sigma,
      canvas,
    )
  const out = room.scratch.floats(region.width * region.height),
    by = -facingPer(here, step),
    down = 4 * step * width
  for (let y = 0, i = 0; y < region.height; y++) {
    let j = ((y + step) * width + step) * 4 + 3
    for (let x = 0; x < region.width; x++, i++, j += 4)
      out[i] =
        by * (dx * (blurred[j + 4 * step] - blurred[j - 4 * step]) + dy * (blurred[j + down] - blurred[j - down]))
  }
  return out
}
