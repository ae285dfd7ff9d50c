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

/** Worked in blocks, each seeing this far around itself (px): memory stays small and the soft band rarely is wider. */
const BLOCK = 512, MARGIN = 96

/** The picture with the subject's colours (alpha untouched). Both have the same size. Returns a new picture. `check` is called now and then with the progress (0-1). */
export function foregroundColours(picture: Picture, matte: Matte, check: (progress: number) => void = () => {}): Picture {
  const { width, height } = picture
  const data = picture.data.slice()
  for (let top = 0; top < height; top += BLOCK) {
    check(top / height)
    for (let left = 0; left < width; left += BLOCK) {
      const right = Math.min(width, left + BLOCK), bottom = Math.min(height, top + BLOCK)
      if (hasSoft(matte, left, top, right, bottom)) correctBlock(picture, matte, data, left, top, right, bottom)
    }
  }
  return { width, height, data }
}

function hasSoft({ width, data }: Matte, left: number, top: number, right: number, bottom: number): boolean {
  for (let y = top; y < bottom; y++) for (let i = y * width + left, end = y * width + right; i < end; i++) if (data[i] !== 0 && data[i] !== 255) return true
  return false
}

function correctBlock(picture: Picture, matte: Matte, out: Uint8ClampedArray, left: number, top: number, right: number, bottom: number): void {
  const x0 = Math.max(0, left - MARGIN), y0 = Math.max(0, top - MARGIN), x1 = Math.min(picture.width, right + MARGIN), y1 = Math.min(picture.height, bottom + MARGIN)
  const width = x1 - x0, height = y1 - y0
  const colours: Picture = { width, height, data: new Uint8ClampedArray(width * height * 4) }, coverage: Matte = { width, height, data: new Uint8Array(width * height) }
  for (let y = 0; y < height; y++) {
    const from = (y0 + y) * picture.width + x0
    colours.data.set(picture.data.subarray(from * 4, (from + width) * 4), y * width * 4)
    coverage.data.set(matte.data.subarray(from, from + width), y * width)
  }
  const inside = spread(colours, coverage, 255), outside = spread(colours, coverage, 0)
  for (let y = top; y < bottom; y++) for (let x = left; x < right; x++) {
    const i = y * picture.width + x, k = (y - y0) * width + x - x0
    if (matte.data[i] === 0 || matte.data[i] === 255) continue
    const alpha = matte.data[i] / 255, rest = 1 - alpha
    for (let c = 0; c < 3; c++) {
      const foreground = inside[k * 3 + c], background = outside[k * 3 + c]
      const unexplained = LINEAR_OF_BYTE[picture.data[i * 4 + c]] - alpha * foreground - rest * background
      out[i * 4 + c] = byteOfLinear(foreground + (alpha * unexplained) / (alpha * alpha + rest * rest))
    }
  }
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
