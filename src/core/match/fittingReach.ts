import { edgeBlurOf } from './edgeBlur'
import { halveMatte, halvePicture } from '../raster/levels'
import { type Matte, type Picture } from '../raster/picture'

/** An edge blurred by a Gaussian has left it after so many sigmas on either side, what a finder is off included. */
const SIGMAS = 3.5
/** Never less, px: anti-aliasing, and a finder's pixel. */
const LEAST = 3
/** Softer edges are measured on a smaller level, sigma px. */
const SOFT = 2.5

/**
 * How far on either side of its boundary a matte is worth being solved, px: as far as the picture's edges are soft there. Farther than that the solver
 * only finds what it may be wrong about; hair is followed beyond it, or brushed. Null where the boundary tells nothing.
 */
export function fittingReach(picture: Picture, matte: Matte): number | null {
  let sigma = edgeBlurOf(picture, matte)
  for (let scale = 2; sigma !== null && sigma > (SOFT * scale) / 2; scale *= 2) {
    picture = halvePicture(picture)
    matte = halveMatte(matte)
    const there = edgeBlurOf(picture, matte)
    if (there === null) break
    sigma = there * scale
  }
  return sigma === null ? null : Math.max(LEAST, Math.round(SIGMAS * sigma))
}
