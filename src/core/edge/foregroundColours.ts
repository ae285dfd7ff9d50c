/**
 * Fringe colours: the subject's own colour under soft pixels, so that no rim of the old backdrop travels along with a cut-out.
 *
 * The colours of sure subject and of sure surroundings are spread into the soft band by pull-push over mip levels, then corrected
 * so that they explain the pixel: of all (F, B) with αF + (1 − α)B = C, the pair nearest to the spread one. In linear light, where a camera mixes.
 * Sources: Gortler, Grzeszczuk, Szeliski and Cohen, "The Lumigraph", SIGGRAPH 1996 (pull-push); Germer, Uelwer, Conrad and
 * Harmeling, "Fast multi-level foreground estimation", ICPR 2020 (the local correction, here without their smoothing sweeps).
 */
import { byteOfLinear, LINEAR_OF_BYTE } from '../colour/srgb'
import { type Matte, type Picture } from '../raster/picture'

/** The picture with the subject's colours (alpha untouched). Both have the same size. Returns a new picture. */
export function foregroundColours(picture: Picture, matte: Matte): Picture {
  const { width, height } = picture
  const inside = spread(picture, matte, 255)
  const outside = spread(picture, matte, 0)
  const data = picture.data.slice()
  for (let i = 0; i < matte.data.length; i++) {
    if (matte.data[i] === 0 || matte.data[i] === 255) continue
    const alpha = matte.data[i] / 255, rest = 1 - alpha
    for (let c = 0; c < 3; c++) {
      const foreground = inside[i * 3 + c], background = outside[i * 3 + c]
      const unexplained = LINEAR_OF_BYTE[picture.data[i * 4 + c]] - alpha * foreground - rest * background
      data[i * 4 + c] = byteOfLinear(foreground + (alpha * unexplained) / (alpha * alpha + rest * rest))
    }
  }
  return { width, height, data }
}

interface Level { width: number; height: number; sums: Float32Array; weights: Float32Array }

/** Linear colour (3 floats a pixel) of the pixels whose coverage is `sure`, carried on smoothly everywhere else. */
function spread(picture: Picture, matte: Matte, sure: number): Float32Array {
  const { width, height } = picture
  let level: Level = { width, height, sums: new Float32Array(width * height * 3), weights: new Float32Array(width * height) }
  for (let i = 0; i < matte.data.length; i++) {
    if (matte.data[i] !== sure || picture.data[i * 4 + 3] === 0) continue
    level.weights[i] = 1
    for (let c = 0; c < 3; c++) level.sums[i * 3 + c] = LINEAR_OF_BYTE[picture.data[i * 4 + c]]
  }
  const levels = [level]
  while (level.width > 1 || level.height > 1) levels.push((level = pull(level)))
  for (let n = levels.length - 2; n >= 0; n--) push(levels[n + 1], levels[n])
  return levels[0].sums
}

/** Half the size: weighted means, weights cut at one. */
function pull(fine: Level): Level {
  const width = (fine.width + 1) >> 1, height = (fine.height + 1) >> 1
  const coarse: Level = { width, height, sums: new Float32Array(width * height * 3), weights: new Float32Array(width * height) }
  for (let y = 0; y < fine.height; y++) for (let x = 0; x < fine.width; x++) {
    const i = y * fine.width + x, weight = fine.weights[i]
    if (weight === 0) continue
    const o = (y >> 1) * width + (x >> 1)
    coarse.weights[o] += weight
    for (let c = 0; c < 3; c++) coarse.sums[o * 3 + c] += weight * fine.sums[i * 3 + c]
  }
  for (let o = 0; o < coarse.weights.length; o++) {
    const weight = coarse.weights[o]
    if (weight === 0) continue
    for (let c = 0; c < 3; c++) coarse.sums[o * 3 + c] /= weight
    coarse.weights[o] = Math.min(1, weight)
  }
  return coarse
}

/** Fills what is missing in `fine` from `coarse`, bilinearly. */
function push(coarse: Level, fine: Level): void {
  for (let y = 0; y < fine.height; y++) for (let x = 0; x < fine.width; x++) {
    const i = y * fine.width + x, missing = 1 - fine.weights[i]
    if (missing <= 0) continue
    const u = (x + 0.5) / 2 - 0.5, v = (y + 0.5) / 2 - 0.5
    const left = Math.max(0, Math.floor(u)), top = Math.max(0, Math.floor(v)), right = Math.min(coarse.width - 1, left + 1), low = Math.min(coarse.height - 1, top + 1)
    const fx = Math.max(0, u - left), fy = Math.max(0, v - top)
    for (let c = 0; c < 3; c++) {
      const above = coarse.sums[(top * coarse.width + left) * 3 + c] * (1 - fx) + coarse.sums[(top * coarse.width + right) * 3 + c] * fx
      const below = coarse.sums[(low * coarse.width + left) * 3 + c] * (1 - fx) + coarse.sums[(low * coarse.width + right) * 3 + c] * fx
      fine.sums[i * 3 + c] = fine.weights[i] * fine.sums[i * 3 + c] + missing * (above * (1 - fy) + below * fy)
    }
  }
}
