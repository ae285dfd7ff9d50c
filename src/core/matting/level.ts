/** A level of what is being solved: colours, what is unknown, and coverage as far as it is known or found. */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { bytesFor, type Crew, floatsFor, type Task } from '../parallel/crew'
import { type Rows, stripsOf } from '../parallel/strips'
import { halfSize, halvePicture } from '../raster/levels'
import { type Picture } from '../raster/picture'
import { Scratch } from '../raster/scratch'

export interface Level {
  /** Its colours are mixed in linear light, as a camera mixes them. */
  readonly picture: Picture
  /** 1 where coverage is to be found. */
  readonly unknown: Uint8Array
  /** Coverage, 0-1. */
  readonly alpha: Float32Array
}

/** What is halved: `coverage` is 0-1 or bytes (`full` is what stands for all). */
interface Finer {
  readonly picture: Picture
  readonly unknown: Uint8Array
  readonly coverage: Float32Array | Uint8Array
  readonly full: number
}

/** Rows of the half made in one go. */
const ROWS = 128

/** Half the size, where the crew sees it: what holds an unknown pixel is unknown. */
export function halved(finer: Finer, crew: Crew): Level {
  const size = halfSize(finer.picture),
    count = size.width * size.height,
    into: Level = {
      picture: { ...size, data: new Uint8ClampedArray(crew.allocate(count * 4), 0, count * 4) },
      unknown: bytesFor(crew, count),
      alpha: floatsFor(crew, count),
    }
  crew.share(halveRows, { ...finer, into }, stripsOf(size.height, ROWS))
  return into
}

export const halveRows: Task<Finer & { readonly into: Level }, Rows> = {
  name: 'halve rows of a level',
  begin: (finer) => (rows) => halve(finer, rows),
}

function halve({ picture, unknown, coverage, full, into }: Finer & { readonly into: Level }, { from, to }: Rows): void {
  const { width, height } = picture,
    half = into.picture.width,
    top = 2 * from,
    rows = Math.min(height, 2 * to) - top,
    data = picture.data.subarray(top * width * 4, (top + rows) * width * 4)
  into.picture.data.set(halvePicture({ width, height: rows, data }).data, from * half * 4)
  for (let v = from, o = from * half; v < to; v++)
    for (let u = 0; u < half; u++, o++) {
      const p = 2 * v * width + 2 * u,
        right = 2 * u + 1 < width ? 1 : 0,
        down = 2 * v + 1 < height ? width : 0
      into.unknown[o] = unknown[p] | unknown[p + right] | unknown[p + down] | unknown[p + down + right]
      into.alpha[o] = (coverage[p] + coverage[p + right] + coverage[p + down] + coverage[p + down + right]) / (4 * full)
    }
}

/** How far the affine functions are held back when coverage is carried to a finer level, colours 0-1 squared: grain must not be carried along. */
const EPSILON = 1e-4

/**
 * Carries coverage of a level to the unknown pixels of a part of one twice as large, which begins at (left, top) of it: as an affine function of
 * colour in each 3×3 window, those functions mixed bilinearly, so that fine things come back. Memory: 17 bytes for each pixel of the coarse level under the part.
 * Source: Levin, Lischinski and Weiss 2008, section 4.4 (coarse to fine by linear coefficients).
 */
export function carry(
  coarse: Level,
  { picture, unknown, alpha }: Level,
  left: number,
  top: number,
  room = new Scratch(),
): void {
  const { width, height, data } = coarse.picture,
    coverage = coarse.alpha,
    light = LINEAR_OF_BYTE
  // Functions of the coarse pixels from (x0, y0) on, `across` in a row: as far as the part reaches.
  const x0 = Math.max(0, (left - 1) >> 1),
    y0 = Math.max(0, (top - 1) >> 1),
    across = Math.min(width, ((left + picture.width) >> 1) + 1) - x0,
    count = across * (Math.min(height, ((top + picture.height) >> 1) + 1) - y0)
  const lines = room.floats(4 * count),
    made = room.bytes(count).fill(0)
  for (let y = 0, i = 0; y < picture.height; y++) {
    const v = Math.max(0, (y + top - 0.5) / 2),
      high = Math.min(height - 1, v | 0),
      low = Math.min(height - 1, high + 1),
      fy = v - high
    for (let x = 0; x < picture.width; x++, i++) {
      if (!unknown[i]) continue
      const u = Math.max(0, (x + left - 0.5) / 2),
        near = Math.min(width - 1, u | 0),
        far = Math.min(width - 1, near + 1),
        fx = u - near
      const p = (high - y0) * across + near - x0,
        q = (high - y0) * across + far - x0,
        r = (low - y0) * across + near - x0,
        s = (low - y0) * across + far - x0
      if (!made[p]) made[p] = fitLine(width, height, data, coverage, near, high, lines, 4 * p)
      if (!made[q]) made[q] = fitLine(width, height, data, coverage, far, high, lines, 4 * q)
      if (!made[r]) made[r] = fitLine(width, height, data, coverage, near, low, lines, 4 * r)
      if (!made[s]) made[s] = fitLine(width, height, data, coverage, far, low, lines, 4 * s)
      const wp = (1 - fx) * (1 - fy),
        wq = fx * (1 - fy),
        wr = (1 - fx) * fy,
        ws = fx * fy,
        o = 4 * i
      const value =
        (wp * lines[4 * p] + wq * lines[4 * q] + wr * lines[4 * r] + ws * lines[4 * s]) * light[picture.data[o]] +
        (wp * lines[4 * p + 1] + wq * lines[4 * q + 1] + wr * lines[4 * r + 1] + ws * lines[4 * s + 1]) *
          light[picture.data[o + 1]] +
        (wp * lines[4 * p + 2] + wq * lines[4 * q + 2] + wr * lines[4 * r + 2] + ws * lines[4 * s + 2]) *
          light[picture.data[o + 2]] +
        wp * lines[4 * p + 3] +
        wq * lines[4 * q + 3] +
        wr * lines[4 * r + 3] +
        ws * lines[4 * s + 3]
      alpha[i] = value < 0 ? 0 : value > 1 ? 1 : value
    }
  }
}

/** The affine function of the window around (x, y): four numbers from `at` on. @returns 1: it is made */
function fitLine(
  width: number,
  height: number,
  data: Uint8ClampedArray,
  alpha: Float32Array,
  x: number,
  y: number,
  lines: Float32Array,
  at: number,
): number {
  const light = LINEAR_OF_BYTE,
    x0 = x > 0 ? x - 1 : x,
    x1 = x < width - 1 ? x + 1 : x,
    y0 = y > 0 ? y - 1 : y,
    y1 = y < height - 1 ? y + 1 : y,
    share = 1 / ((x1 - x0 + 1) * (y1 - y0 + 1))
  let mr = 0,
    mg = 0,
    mb = 0,
    ma = 0
  for (let v = y0; v <= y1; v++)
    for (let u = x0, i = v * width + x0; u <= x1; u++, i++) {
      mr += light[data[i * 4]]
      mg += light[data[i * 4 + 1]]
      mb += light[data[i * 4 + 2]]
      ma += alpha[i]
    }
  mr *= share
  mg *= share
  mb *= share
  ma *= share
  let rr = 0,
    rg = 0,
    rb = 0,
    gg = 0,
    gb = 0,
    bb = 0,
    ra = 0,
    ga = 0,
    ba = 0
  for (let v = y0; v <= y1; v++)
    for (let u = x0, i = v * width + x0; u <= x1; u++, i++) {
      const r = light[data[i * 4]] - mr,
        g = light[data[i * 4 + 1]] - mg,
        b = light[data[i * 4 + 2]] - mb,
        a = (alpha[i] - ma) * share
      rr += r * r * share
      rg += r * g * share
      rb += r * b * share
      gg += g * g * share
      gb += g * b * share
      bb += b * b * share
      ra += r * a
      ga += g * a
      ba += b * a
    }
  // Only now: sums that begin with a constant of the module would be kept as objects, one for each step.
  rr += EPSILON
  gg += EPSILON
  bb += EPSILON
  const a = gg * bb - gb * gb,
    b = rb * gb - rg * bb,
    c = rg * gb - rb * gg,
    one = 1 / (rr * a + rg * b + rb * c),
    cross = rg * rb - rr * gb
  const kr = (a * ra + b * ga + c * ba) * one,
    kg = (b * ra + (rr * bb - rb * rb) * ga + cross * ba) * one,
    kb = (c * ra + cross * ga + (rr * gg - rg * rg) * ba) * one
  lines[at] = kr
  lines[at + 1] = kg
  lines[at + 2] = kb
  lines[at + 3] = ma - kr * mr - kg * mg - kb * mb
  return 1
}
