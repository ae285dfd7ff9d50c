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
import { whereIs } from '../raster/whereIs'

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
    deep = rim > 0 ? deepInside(coverage, rim) : whereIs(coverage.data, 255)
    let inside = 0,
      outside = 0
    for (let i = 0; i < deep.length; i++) {
      inside += deep[i]
      if (coverage.data[i] === 0) outside++
    }
    if (inside >= ENOUGH && outside >= ENOUGH) break
  }
  // Which pixels of the block are to be corrected: only there the finest level is filled.
  const wanted: number[] = []
  for (let y = block.y; y < block.y + block.height; y++)
    for (let x = block.x, k = (y - part.y) * part.width + x - part.x; x < block.x + block.width; x++, k++) {
      const v = coverage.data[k]
      if (v !== 0 && !deep[k] && (v !== 255 || rim > 0)) wanted.push(k)
    }
  if (!wanted.length) return
  const colours = cropPicture(picture, part),
    inside = spread(colours, deep, wanted),
    outside = spread(colours, whereIs(coverage.data, 0), wanted)
  wanted.forEach((k, n) => {
    const i = (part.y + Math.floor(k / part.width)) * picture.width + part.x + (k % part.width),
      covered = coverage.data[k],
      alpha = covered / 255,
      rest = 1 - alpha,
      share = covered === 255 ? 1 : amount
    for (let c = 0; c < 3; c++) {
      const own = LINEAR_OF_BYTE[picture.data[i * 4 + c]],
        foreground = inside[n * 3 + c],
        background = outside[n * 3 + c]
      // In the rim the pixel itself is not to be believed.
      const better =
        rim > 0
          ? foreground
          : foreground + (alpha * (own - alpha * foreground - rest * background)) / (alpha * alpha + rest * rest)
      out[i * 4 + c] = byteOfLinear(share >= 1 ? better : own + share * (better - own))
    }
  })
}

/** 1 for full pixels farther than `rim` px from what is not full. */
function deepInside(matte: Matte, rim: number): Uint8Array {
  const out = whereIs(matte.data, 255),
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

/** Colours, three floats a pixel, and how far they are known, 0-1. */
interface Level {
  readonly width: number
  readonly height: number
  readonly sums: Float32Array
  readonly weights: Float32Array
}

/** Linear colours of the pixels that are `sure` (1), carried on smoothly to those that are `wanted`: three floats for each of these places, none of which is sure. */
function spread(picture: Picture, sure: Uint8Array, wanted: readonly number[]): Float32Array {
  const levels = [halfOfSure(picture, sure)]
  for (let level = levels[0]; level.width > 1 || level.height > 1;) levels.push((level = pull(level)))
  for (let n = levels.length - 2; n >= 0; n--) {
    const { width, weights, sums } = levels[n]
    for (let i = 0; i < weights.length; i++) if (weights[i] < 1) push(levels[n + 1], width, i, weights[i], sums, i)
  }
  const out = new Float32Array(wanted.length * 3)
  for (let n = 0; n < wanted.length; n++) push(levels[0], picture.width, wanted[n], 0, out, n)
  return out
}

/** The first level of all: half the picture's size, of what is sure and shows. */
function halfOfSure({ width: across, height: down, data }: Picture, sure: Uint8Array): Level {
  const width = (across + 1) >> 1,
    height = (down + 1) >> 1,
    sums = new Float32Array(width * height * 3),
    weights = new Float32Array(width * height)
  for (let y = 0, i = 0; y < down; y++)
    for (let x = 0, row = (y >> 1) * width; x < across; x++, i++) {
      if (!sure[i] || data[i * 4 + 3] === 0) continue
      const o = row + (x >> 1)
      weights[o]++
      sums[o * 3] += LINEAR_OF_BYTE[data[i * 4]]
      sums[o * 3 + 1] += LINEAR_OF_BYTE[data[i * 4 + 1]]
      sums[o * 3 + 2] += LINEAR_OF_BYTE[data[i * 4 + 2]]
    }
  return meansOf({ width, height, sums, weights })
}

/** Half the size: weighted means, weights cut at one. */
function pull(fine: Level): Level {
  const width = (fine.width + 1) >> 1,
    height = (fine.height + 1) >> 1
  const sums = new Float32Array(width * height * 3),
    weights = new Float32Array(width * height)
  for (let y = 0, i = 0; y < fine.height; y++)
    for (let x = 0; x < fine.width; x++, i++) {
      const weight = fine.weights[i]
      if (weight === 0) continue
      const o = (y >> 1) * width + (x >> 1)
      weights[o] += weight
      sums[o * 3] += weight * fine.sums[i * 3]
      sums[o * 3 + 1] += weight * fine.sums[i * 3 + 1]
      sums[o * 3 + 2] += weight * fine.sums[i * 3 + 2]
    }
  return meansOf({ width, height, sums, weights })
}

function meansOf(level: Level): Level {
  const { sums, weights } = level
  for (let o = 0; o < weights.length; o++) {
    const weight = weights[o]
    if (weight === 0) continue
    sums[o * 3] /= weight
    sums[o * 3 + 1] /= weight
    sums[o * 3 + 2] /= weight
    weights[o] = Math.min(1, weight)
  }
  return level
}

/** Fills what is missing in a pixel of a level `width` px wide from the coarser one, bilinearly: pixel `i`, which has so much weight, at place `o` of `to`. */
function push(coarse: Level, width: number, i: number, weight: number, to: Float32Array, o: number): void {
  const y = Math.floor(i / width),
    u = (i - y * width + 0.5) / 2 - 0.5,
    v = (y + 0.5) / 2 - 0.5
  const left = u > 0 ? u | 0 : 0,
    top = v > 0 ? v | 0 : 0,
    right = left + 1 < coarse.width ? left + 1 : left,
    low = top + 1 < coarse.height ? top + 1 : top
  const fx = u > left ? u - left : 0,
    fy = v > top ? v - top : 0
  const a = (top * coarse.width + left) * 3,
    b = (top * coarse.width + right) * 3,
    c = (low * coarse.width + left) * 3,
    d = (low * coarse.width + right) * 3,
    from = coarse.sums
  for (let n = 0; n < 3; n++) {
    const above = from[a + n] * (1 - fx) + from[b + n] * fx,
      below = from[c + n] * (1 - fx) + from[d + n] * fx
    to[o * 3 + n] = weight * to[o * 3 + n] + (1 - weight) * (above * (1 - fy) + below * fy)
  }
}
