/**
 * What lies at the bottom of a group, mirrored about a horizon as water mirrors it: what stands a row above the horizon is seen as far below it, and waves
 * lean towards the eye and away from it, which draws it out towards the horizon. Source: for the mirrored sky of a water with waves, Cox and Munk,
 * "Measurement of the roughness of the sea surface from photographs of the sun's glitter", JOSA 1954 (that waves draw it out in height far more than across);
 * running sums as in Crow, "Summed-Area Tables for Texture Mapping", SIGGRAPH 1984.
 */
import { type Size } from '../raster/picture'
import { blurGaussian, coarserLevel, LEAST_SIGMA } from './blur'
import { type Fetch, fetched } from './fetch'
import { type Region } from './region'
import { type Room } from './room'

/** Water never mirrors more sharply than this: the two finest levels are not looked at, so that parts of a large picture need not be held whole. */
const FINEST = 2

export interface MirrorLine {
  /** Its row in the middle of the canvas, px from the top. */
  readonly horizon: number
  /** Degrees clockwise. */
  readonly tilt: number
  /** 0: mirrored as by a mirror; 1: drawn out from there to the horizon. */
  readonly ripple: number
  /** Sigma, canvas px. */
  readonly blur: number
}
/** Premultiplied pixels of row `y` of the region (counted within it), valid until the next. */
export type MirroredRow = (y: number) => Float32Array

/** @param fetch gives premultiplied pixels of any region of what is mirrored; beyond the canvas its edge goes on */
export function mirrored(room: Room, fetch: Fetch, region: Region, canvas: Size, line: MirrorLine): MirroredRow {
  const level = Math.max(
      FINEST,
      region.level + coarserLevel(line.blur / 2 ** region.level, LEAST_SIGMA, region, canvas),
    ),
    k = 2 ** (level - region.level),
    side = 2 ** level,
    slope = Math.tan((line.tilt * Math.PI) / 180),
    /** In rows of the level looked at. */
    horizonAt = (x: number) => (line.horizon + slope * (x * side - canvas.width / 2)) / side
  // Columns: those of the region, and one more on either side to go between.
  const left = Math.floor(region.x / k) - 1,
    width = Math.ceil((region.x + region.width) / k) + 2 - left,
    highest = Math.max(horizonAt(left), horizonAt(left + width)),
    lowest = Math.min(horizonAt(left), horizonAt(left + width)),
    bottomRow = (region.y + region.height) / k,
    tall = Math.ceil(canvas.height / side),
    top = Math.max(-1, Math.floor(2 * lowest - bottomRow) - 1),
    bottom = Math.max(top + 1, Math.min(tall + 1, Math.ceil(highest) + 2)),
    rows = bottom - top
  const cells: Region = { level, x: left, y: top, width, height: rows },
    values = line.blur > 0 ? blurGaussian(room, fetch, cells, line.blur, canvas) : fetched(room, fetch, cells)
  // Sums of all rows above, a column each.
  const stride = width * 4,
    sums = new Float64Array((rows + 1) * stride)
  for (let i = 0; i < rows * stride; i++) sums[stride + i] = sums[i] + values[i]
  const own = new Float32Array(stride),
    out = new Float32Array(region.width * 4)
  /** The sum of column `at` down to a place between rows; above the first row that goes on. */
  const until = (place: number, at: number): number => {
    if (place <= 0) return place * values[at]
    if (place >= rows) return sums[rows * stride + at] + (place - rows) * values[(rows - 1) * stride + at]
    const row = Math.floor(place)
    return sums[row * stride + at] + (place - row) * values[row * stride + at]
  }
  return (y) => {
    const here = (region.y + y + 0.5) / k
    for (let x = 0; x < width; x++) {
      const horizon = horizonAt(left + x + 0.5) - top,
        below = Math.max(0, here - top - horizon),
        // At least one row, and nothing below the horizon.
        to = Math.min(horizon - (1 - line.ripple) * below + 0.5, horizon),
        from = Math.min(horizon - below - 0.5, to - 1)
      for (let c = 0, at = x * 4; c < 4; c++, at++) own[at] = (until(to, at) - until(from, at)) / (to - from)
    }
    for (let x = 0; x < region.width; x++) {
      const place = (region.x + x + 0.5) / k - 0.5 - left,
        cell = Math.min(width - 2, Math.max(0, Math.floor(place))),
        part = place - cell
      for (let c = 0, at = cell * 4; c < 4; c++, at++) out[4 * x + c] = own[at] + part * (own[at + 4] - own[at])
    }
    return out
  }
}
