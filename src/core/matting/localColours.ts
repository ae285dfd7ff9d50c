/**
 * What the known pixels round about say of the unknown ones: a Gaussian of the subject's colours and one of the surroundings' near each
 * pixel, how well they can be told apart there, and the coverage that explains the pixel best.
 * Sources: Chuang, Curless, Salesin and Szeliski, "A Bayesian approach to digital matting", CVPR 2001 (Gaussians of both sides, coverage
 * along the line between their means); Gortler, Grzeszczuk, Szeliski and Cohen, "The Lumigraph", SIGGRAPH 1996 (pull-push over mip levels).
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { EMPTY, FULL } from '../raster/coverage'
import { nearestSetPixels } from '../raster/distance'
import { type Size } from '../raster/picture'
import { type Level } from './level'

/** Sums over known pixels: their number, r, g, b, and the six products. */
const MOMENTS = 10
/** A Gaussian is made of about so many pixels, the nearest ones. */
const ENOUGH = 8
/** Variance of grain, linear colours squared. */
const GRAIN = 1e-5
/** Distances to what is known are told up to this, px. */
const FARTHEST = 200
/** How often coverage and the variance that follows from it are found in turn. */
const TURNS = 3

export interface LocalColours extends Size {
  /** Coverage of the unknown pixels, 0-1, by their colour alone. */
  readonly coverage: Float32Array
  /** One over its variance: how well the two sides can be told apart there. */
  readonly precision: Float32Array
  /** What the mixture leaves unexplained, in standard deviations squared. */
  readonly unexplained: Float32Array
  /** Distance to the nearest known pixel of either side, added up, px. */
  readonly away: Float32Array
}

/** Room for them, zero. */
export const roomForColours = ({ width, height }: Size, floats: (length: number) => Float32Array): LocalColours => ({
  width,
  height,
  coverage: floats(width * height),
  precision: floats(width * height),
  unexplained: floats(width * height),
  away: floats(width * height),
})

/** For the unknown pixels; zero elsewhere, and where one of the sides is known nowhere. Memory: 120 bytes a pixel. @param out zero */
export function localColours(
  { picture, unknown, alpha }: Level,
  out: LocalColours = roomForColours(picture, (length) => new Float32Array(length)),
  check: () => void = () => {},
): LocalColours {
  const { width, height, data } = picture,
    count = width * height
  const inside = new Uint8Array(count),
    outside = new Uint8Array(count)
  for (let i = 0; i < count; i++)
    if (unknown[i]) out.away[i] = 2 * FARTHEST
    else if (alpha[i] > FULL) inside[i] = 1
    else if (alpha[i] < EMPTY) outside[i] = 1
  for (const side of [inside, outside]) {
    check()
    nearestSetPixels(side, picture, FARTHEST, (y, nearest, from, to) => {
      for (let x = from, i = y * width + from; x < to; x++, i++) {
        const k = nearest[x]
        if (unknown[i] && k >= 0)
          out.away[i] += Math.sqrt(((k % width) - x) ** 2 + (Math.floor(k / width) - y) ** 2) - FARTHEST
      }
    })
  }
  const F = momentsOf(picture, inside, unknown)
  check()
  const B = momentsOf(picture, outside, unknown)
  check()
  for (let i = 0; i < count; i++) if (unknown[i]) explain(data, i, F, B, out)
  return out
}

/** Pixel number `i` as a mixture of both sides' colours, told by their moments. */
function explain(data: Uint8ClampedArray, i: number, F: Float32Array, B: Float32Array, out: LocalColours): void {
  const o = i * MOMENTS,
    wf = 1 / F[o],
    wb = 1 / B[o]
  if (F[o] === 0 || B[o] === 0) return
  const br = B[o + 1] * wb,
    bg = B[o + 2] * wb,
    bl = B[o + 3] * wb,
    fr = F[o + 1] * wf,
    fg = F[o + 2] * wf,
    fl = F[o + 3] * wf
  const dr = fr - br,
    dg = fg - bg,
    db = fl - bl,
    er = LINEAR_OF_BYTE[data[4 * i]] - br,
    eg = LINEAR_OF_BYTE[data[4 * i + 1]] - bg,
    eb = LINEAR_OF_BYTE[data[4 * i + 2]] - bl
  let coverage = 0.5,
    precision = 0,
    unexplained = 0
  for (let turn = 0; turn < TURNS; turn++) {
    const kf = coverage * coverage,
      kb = (1 - coverage) * (1 - coverage)
    const xx = kf * (F[o + 4] * wf - fr * fr) + kb * (B[o + 4] * wb - br * br) + GRAIN,
      xy = kf * (F[o + 5] * wf - fr * fg) + kb * (B[o + 5] * wb - br * bg),
      xz = kf * (F[o + 6] * wf - fr * fl) + kb * (B[o + 6] * wb - br * bl)
    const yy = kf * (F[o + 7] * wf - fg * fg) + kb * (B[o + 7] * wb - bg * bg) + GRAIN,
      yz = kf * (F[o + 8] * wf - fg * fl) + kb * (B[o + 8] * wb - bg * bl),
      zz = kf * (F[o + 9] * wf - fl * fl) + kb * (B[o + 9] * wb - bl * bl) + GRAIN
    const a = yy * zz - yz * yz,
      b = xz * yz - xy * zz,
      c = xy * yz - xz * yy,
      one = 1 / (xx * a + xy * b + xz * c),
      d = xx * zz - xz * xz,
      e = xy * xz - xx * yz,
      f = xx * yy - xy * xy
    const qr = (a * dr + b * dg + c * db) * one,
      qg = (b * dr + d * dg + e * db) * one,
      qb = (c * dr + e * dg + f * db) * one
    precision = qr * dr + qg * dg + qb * db
    coverage = precision > 0 ? Math.max(0, Math.min(1, (qr * er + qg * eg + qb * eb) / precision)) : 0.5
    const gr = er - coverage * dr,
      gg = eg - coverage * dg,
      gb = eb - coverage * db
    unexplained = (gr * (a * gr + 2 * (b * gg + c * gb)) + gg * (d * gg + 2 * e * gb) + f * gb * gb) * one
  }
  out.coverage[i] = coverage
  out.precision[i] = precision
  out.unexplained[i] = unexplained
}

interface Sums extends Size {
  readonly sums: Float32Array
}

/** The moments of the nearest known pixels, for every pixel that is asked for. */
function momentsOf({ width, height, data }: Level['picture'], known: Uint8Array, asked: Uint8Array): Float32Array {
  const levels: Sums[] = [{ width, height, sums: new Float32Array(width * height * MOMENTS) }]
  for (let i = 0, o = 0; i < known.length; i++, o += MOMENTS) {
    if (!known[i]) continue
    const { sums } = levels[0],
      r = LINEAR_OF_BYTE[data[4 * i]],
      g = LINEAR_OF_BYTE[data[4 * i + 1]],
      b = LINEAR_OF_BYTE[data[4 * i + 2]]
    sums[o] = 1
    sums[o + 1] = r
    sums[o + 2] = g
    sums[o + 3] = b
    sums[o + 4] = r * r
    sums[o + 5] = r * g
    sums[o + 6] = r * b
    sums[o + 7] = g * g
    sums[o + 8] = g * b
    sums[o + 9] = b * b
  }
  for (let fine = levels[0]; fine.width > 1 || fine.height > 1; fine = levels.at(-1)!) levels.push(pulled(fine))
  for (let n = levels.length - 2; n >= 0; n--) push(levels[n + 1], levels[n], n === 0 ? asked : null)
  return levels[0].sums
}

function pulled(fine: Sums): Sums {
  const width = (fine.width + 1) >> 1,
    height = (fine.height + 1) >> 1,
    sums = new Float32Array(width * height * MOMENTS)
  for (let y = 0; y < fine.height; y++)
    for (let x = 0; x < fine.width; x++) {
      const i = (y * fine.width + x) * MOMENTS,
        o = ((y >> 1) * width + (x >> 1)) * MOMENTS
      if (fine.sums[i] > 0) for (let c = 0; c < MOMENTS; c++) sums[o + c] += fine.sums[i + c]
    }
  return { width, height, sums }
}

/** What is missing to ENOUGH pixels comes from the coarser level, bilinearly. */
function push(coarse: Sums, fine: Sums, asked: Uint8Array | null): void {
  for (let y = 0; y < fine.height; y++)
    for (let x = 0; x < fine.width; x++) {
      if (asked && !asked[y * fine.width + x]) continue
      const i = (y * fine.width + x) * MOMENTS,
        missing = 1 - fine.sums[i] / ENOUGH
      if (missing <= 0) continue
      const u = Math.max(0, (x - 0.5) / 2),
        v = Math.max(0, (y - 0.5) / 2),
        left = Math.min(coarse.width - 1, u | 0),
        top = Math.min(coarse.height - 1, v | 0),
        right = Math.min(coarse.width - 1, left + 1),
        low = Math.min(coarse.height - 1, top + 1),
        fx = u - left,
        fy = v - top
      const p = (top * coarse.width + left) * MOMENTS,
        q = (top * coarse.width + right) * MOMENTS,
        r = (low * coarse.width + left) * MOMENTS,
        s = (low * coarse.width + right) * MOMENTS
      const wp = (1 - fx) * (1 - fy) * missing,
        wq = fx * (1 - fy) * missing,
        wr = (1 - fx) * fy * missing,
        ws = fx * fy * missing
      for (let k = 0; k < MOMENTS; k++)
        fine.sums[i + k] +=
          wp * coarse.sums[p + k] + wq * coarse.sums[q + k] + wr * coarse.sums[r + k] + ws * coarse.sums[s + k]
    }
}
