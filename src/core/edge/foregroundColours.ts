/**
 * Fringe colours: the subject's own colour under soft pixels, so that no rim of the old backdrop travels along with a cut-out.
 *
 * The colours of sure subject and of sure surroundings are spread into the soft band by pull-push over mip levels, then corrected
 * so that they explain the pixel: of all (F, B) with αF + (1 − α)B = C, the pair nearest to the spread one. In linear light, where a camera mixes.
 * Sources: Gortler, Grzeszczuk, Szeliski and Cohen, "The Lumigraph", SIGGRAPH 1996 (pull-push); Germer, Uelwer, Conrad and
 * Harmeling, "Fast multi-level foreground estimation", ICPR 2020 (the local correction, here without their smoothing sweeps).
 */
import { byteOfLinear, LINEAR_OF_BYTE } from '../colour/srgb'
import { type Box } from '../raster/content'
import { cropPicture, cropRows } from '../raster/crop'
import { alone, type Crew, seenByAll, type Task } from '../parallel/crew'
import { nearestSetPixels } from '../raster/distance'
import { type Matte, type Picture } from '../raster/picture'

/** Worked in blocks of so many px, each seeing this far around itself at first; twice and four times as far where nothing sure lies in sight. */
const BLOCK = 192,
  MARGIN = 40,
  WIDENINGS = 3
/** So many sure pixels of a side are enough to go by. */
const ENOUGH = 60

export interface FringeOptions {
  /** How far the colours are replaced, 0-1. */
  readonly amount?: number
  /** Sure pixels so near the edge take colours from deeper inside, too, px: a light or dark rim along a hard edge goes. 0-10. */
  readonly rim?: number
}

/** The picture with the subject's colours (alpha untouched). Both have the same size. Returns a new picture. `check` is called now and then with the progress (0-1). */
export function foregroundColours(
  picture: Picture,
  matte: Matte,
  { amount = 1, rim = 0 }: FringeOptions = {},
  check: (progress: number) => void = () => {},
  crew: Crew = alone,
): Picture {
  const { width, height } = picture
  const out = new Uint8ClampedArray(crew.allocate(picture.data.length), 0, picture.data.length)
  out.set(picture.data)
  if (amount > 0 || rim > 0) {
    const blocks: Box[] = []
    for (let y = 0; y < height; y += BLOCK)
      for (let x = 0; x < width; x += BLOCK) {
        const block = { x, y, width: Math.min(BLOCK, width - x), height: Math.min(BLOCK, height - y) }
        if (hasEdge(matte, block, rim)) blocks.push(block)
      }
    const common = {
      picture: { width, height, data: seenByAll(crew, picture.data) },
      matte: { width, height, data: seenByAll(crew, matte.data) },
      out,
      amount,
      rim,
    }
    crew.share(correctBlocks, common, blocks, check)
  }
  return { width, height, data: out }
}

interface Correction {
  readonly picture: Picture
  readonly matte: Matte
  readonly out: Uint8ClampedArray
  readonly amount: number
  readonly rim: number
}
export const correctBlocks: Task<Correction, Box> = {
  name: 'fringe colours of blocks',
  begin:
    ({ picture, matte, out, amount, rim }) =>
    (block) =>
      correctBlock(picture, matte, out, block, amount, rim),
}

/** Soft pixels in the block, or with a rim something that is not full in or near it, beside what is full. */
function hasEdge({ width, height, data }: Matte, { x, y, width: across, height: down }: Box, rim: number): boolean {
  const spare = Math.ceil(rim),
    left = Math.max(0, x - spare),
    right = Math.min(width, x + across + spare)
  let full = false,
    other = false
  for (let v = Math.max(0, y - spare); v < Math.min(height, y + down + spare); v++)
    for (let i = v * width + left, end = v * width + right; i < end; i++) {
      if (data[i] === 255) full = true
      else if (rim > 0 || data[i] !== 0) other = true
      if (other && (full || rim === 0)) return true
    }
  return false
}

function correctBlock(
  picture: Picture,
  matte: Matte,
  out: Uint8ClampedArray,
  block: Box,
  amount: number,
  rim: number,
): void {
  let margin = MARGIN + Math.ceil(rim),
    part = block,
    coverage: Matte = matte,
    deep: Uint8Array = matte.data
  for (let widening = 0; widening < WIDENINGS; widening++, margin *= 2) {
    const x = Math.max(0, block.x - margin),
      y = Math.max(0, block.y - margin)
    part = {
      x,
      y,
      width: Math.min(picture.width, block.x + block.width + margin) - x,
      height: Math.min(picture.height, block.y + block.height + margin) - y,
    }
    coverage = {
      width: part.width,
      height: part.height,
      data: cropRows(matte.data, matte.width, part, new Uint8Array(part.width * part.height)),
    }
    deep = rim > 0 ? deepInside(coverage, rim) : coverage.data.map((v) => (v === 255 ? 1 : 0))
    let inside = 0,
      outside = 0
    for (let i = 0; i < deep.length; i++) {
      inside += deep[i]
      if (coverage.data[i] === 0) outside++
    }
    if (inside >= ENOUGH && outside >= ENOUGH) break
  }
  const colours = cropPicture(picture, part)
  const inside = spread(colours, deep),
    outside = spread(
      colours,
      coverage.data.map((v) => (v === 0 ? 1 : 0)),
    )
  for (let y = block.y; y < block.y + block.height; y++)
    for (let x = block.x; x < block.x + block.width; x++) {
      const i = y * picture.width + x,
        k = (y - part.y) * part.width + x - part.x
      if (matte.data[i] === 0 || deep[k] || (matte.data[i] === 255 && rim <= 0)) continue
      const alpha = matte.data[i] / 255,
        rest = 1 - alpha
      for (let c = 0; c < 3; c++) {
        const own = LINEAR_OF_BYTE[picture.data[i * 4 + c]],
          foreground = inside[k * 3 + c],
          background = outside[k * 3 + c]
        // In the rim the pixel itself is not to be believed.
        const better =
            rim > 0
              ? foreground
              : foreground + (alpha * (own - alpha * foreground - rest * background)) / (alpha * alpha + rest * rest),
          share = matte.data[i] === 255 ? 1 : amount
        out[i * 4 + c] = byteOfLinear(share >= 1 ? better : own + share * (better - own))
      }
    }
}

/** 1 for full pixels farther than `rim` px from what is not full. */
function deepInside(matte: Matte, rim: number): Uint8Array {
  const out = matte.data.map((v) => (v === 255 ? 1 : 0)),
    { width } = matte
  nearestSetPixels(
    out.map((v) => 1 - v),
    matte,
    rim + 1,
    (y, nearest, from, to) => {
      for (let x = from, i = y * width + from; x < to; x++, i++) {
        const k = nearest[x]
        if (out[i] && k >= 0 && Math.hypot((k % width) - x, Math.floor(k / width) - y) <= rim) out[i] = 0
      }
    },
  )
  return out
}

interface Level {
  width: number
  height: number
  sums: Float32Array
  weights: Float32Array
}

/** Linear colour (3 floats a pixel) of the pixels that are `sure` (1), carried on smoothly everywhere else. */
function spread(picture: Picture, sure: Uint8Array): Float32Array {
  const { width, height } = picture
  let level: Level = {
    width,
    height,
    sums: new Float32Array(width * height * 3),
    weights: new Float32Array(width * height),
  }
  for (let i = 0; i < sure.length; i++) {
    if (!sure[i] || picture.data[i * 4 + 3] === 0) continue
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
  const width = (fine.width + 1) >> 1,
    height = (fine.height + 1) >> 1
  const coarse: Level = {
    width,
    height,
    sums: new Float32Array(width * height * 3),
    weights: new Float32Array(width * height),
  }
  for (let y = 0; y < fine.height; y++)
    for (let x = 0; x < fine.width; x++) {
      const i = y * fine.width + x,
        weight = fine.weights[i]
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
  for (let y = 0; y < fine.height; y++)
    for (let x = 0; x < fine.width; x++) {
      const i = y * fine.width + x,
        missing = 1 - fine.weights[i]
      if (missing <= 0) continue
      const u = (x + 0.5) / 2 - 0.5,
        v = (y + 0.5) / 2 - 0.5
      const left = Math.max(0, Math.floor(u)),
        top = Math.max(0, Math.floor(v)),
        right = Math.min(coarse.width - 1, left + 1),
        low = Math.min(coarse.height - 1, top + 1)
      const fx = Math.max(0, u - left),
        fy = Math.max(0, v - top)
      for (let c = 0; c < 3; c++) {
        const above =
          coarse.sums[(top * coarse.width + left) * 3 + c] * (1 - fx) +
          coarse.sums[(top * coarse.width + right) * 3 + c] * fx
        const below =
          coarse.sums[(low * coarse.width + left) * 3 + c] * (1 - fx) +
          coarse.sums[(low * coarse.width + right) * 3 + c] * fx
        fine.sums[i * 3 + c] = fine.weights[i] * fine.sums[i * 3 + c] + missing * (above * (1 - fy) + below * fy)
      }
    }
}
