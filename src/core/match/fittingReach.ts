/** How far on either side of its boundary a matte is worth being solved. */
import { unroll } from '../edge/ribbon'
import { halveMatte, halvePicture } from '../raster/levels'
import { type Matte, type Picture } from '../raster/picture'
import { edgeBlurOf } from './edgeBlur'

/** An edge blurred by a Gaussian has left it after so many sigmas on either side, what a finder is off included. */
const SIGMAS = 3.5
/** Never less, px: anti-aliasing, and a finder's pixel. */
const LEAST = 3
/** Softer edges are measured on a smaller level, sigma px. */
const SOFT = 2.5

/** Where hair stands out it is this long, as a share of the side of a square as large as the picture. */
const HAIR = 0.0125
/** So much of what colours vary across it is explained by the one step of an edge without hair; by that of one all of hair. */
const PLAIN = 0.86,
  HAIRY = 0.7
/** Hair is looked for on a level of at most so many px, so far to either side of the boundary, the step within so many px of it. */
const LOOK_PIXELS = 1_500_000,
  ASIDE = 8,
  NEAR = 3
/** Places looked at, at most and at least; those where colours hardly vary (squared levels, all channels) tell nothing. */
const MOST = 4000,
  ENOUGH = 20,
  LEAST_VARIANCE = 60

/**
 * As far as the picture's edges are soft there, or hair stands out, px. Farther than that the solver only finds what it may be wrong about.
 * Null where the boundary tells nothing.
 */
export function fittingReach(picture: Picture, matte: Matte): number | null {
  const sigma = softness(picture, matte),
    oneStep = stepLikeness(picture, matte)
  if (sigma === null && oneStep === null) return null
  const hair = Math.max(0, Math.min(1, (PLAIN - (oneStep ?? PLAIN)) / (PLAIN - HAIRY)))
  return Math.round(Math.max(LEAST, SIGMAS * (sigma ?? 0), hair * HAIR * Math.sqrt(picture.width * picture.height)))
}

/** Sigma of the edge's blur, px, however large. */
function softness(picture: Picture, matte: Matte): number | null {
  let sigma = edgeBlurOf(picture, matte)
  for (let scale = 2; sigma !== null && sigma > (SOFT * scale) / 2; scale *= 2) {
    picture = halvePicture(picture)
    matte = halveMatte(matte)
    const there = edgeBlurOf(picture, matte)
    if (there === null) break
    sigma = there * scale
  }
  return sigma
}

/**
 * The share of the variance of colour across the boundary that its best single step explains, 0-1, the median of places where the matte has nothing
 * thin: an edge steps once, hair many times. Source: between-class variance over total variance, Otsu 1979. Null where there are too few.
 */
function stepLikeness(picture: Picture, matte: Matte): number | null {
  while (picture.width * picture.height > LOOK_PIXELS) {
    picture = halvePicture(picture)
    matte = halveMatte(matte)
  }
  const { length, places } = unroll(matte),
    every = Math.max(1, Math.floor(length / MOST)),
    colours = new Float64Array(3 * (2 * ASIDE + 1)),
    found: number[] = []
  for (let k = 0; k < length; k += every) {
    const explained = coloursAcross(picture, matte, places.subarray(4 * k, 4 * k + 4), colours) && bestStep(colours)
    if (explained) found.push(explained)
  }
  return found.length < ENOUGH ? null : found.sort((a, b) => a - b)[found.length >> 1]
}

/** False beyond the picture, or where it is not inside on one side and outside on the other. @param place x, y, and the unit normal */
function coloursAcross(
  { data, width, height }: Picture,
  matte: Matte,
  place: Float32Array,
  out: Float64Array,
): boolean {
  for (let t = -ASIDE, to = 0; t <= ASIDE; t++) {
    const x = Math.floor(place[0] + t * place[2]),
      y = Math.floor(place[1] + t * place[3]),
      i = y * width + x
    if (x < 0 || y < 0 || x >= width || y >= height) return false
    if (Math.abs(t) >= NEAR && matte.data[i] > 127 !== t < 0) return false
    for (let c = 0; c < 3; c++) out[to++] = data[4 * i + c]
  }
  return true
}

/** The share of the colours' variance that the best step near the middle explains; 0 where there is hardly any. */
function bestStep(colours: Float64Array): number {
  const n = colours.length / 3,
    sums = [0, 0, 0],
    before = [0, 0, 0]
  let squares = 0,
    best = 0
  colours.forEach((v, i) => {
    sums[i % 3] += v
    squares += v * v
  })
  const total = squares - sums.reduce((sum, s) => sum + s * s, 0) / n
  if (total < n * LEAST_VARIANCE) return 0
  for (let i = 1; i < n; i++) {
    for (let c = 0; c < 3; c++) before[c] += colours[3 * (i - 1) + c]
    if (Math.abs(i - n / 2) > NEAR) continue
    const between = before.reduce((sum, b, c) => sum + b ** 2 / i + (sums[c] - b) ** 2 / (n - i) - sums[c] ** 2 / n, 0)
    best = Math.max(best, between / total)
  }
  return best
}
