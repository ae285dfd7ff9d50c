import { type Picture, words } from '../../raster/picture'

/** Pixels along a row that are summed up together. */
export const RUN = 32

/**
 * The least and the greatest value of each channel in every run of 32 pixels along a row: where both lie within a tolerance the
 * whole run does, and a flood need not look at its pixels. Made once for a picture. Memory: a quarter of a byte a pixel.
 */
export interface RunExtremes {
  readonly perRow: number
  readonly least: Uint32Array
  readonly greatest: Uint32Array
}

export function runExtremes(picture: Picture): RunExtremes {
  const { width, height } = picture
  const pixels = words(picture)
  const perRow = Math.ceil(width / RUN)
  const least = new Uint32Array(perRow * height),
    greatest = new Uint32Array(perRow * height)
  for (let y = 0, o = 0; y < height; y++)
    for (let run = 0; run < perRow; run++, o++)
      extremesOf(pixels, y * width + run * RUN, y * width + Math.min(width, (run + 1) * RUN), least, greatest, o)
  return { perRow, least, greatest }
}

function extremesOf(
  pixels: Uint32Array,
  from: number,
  to: number,
  least: Uint32Array,
  greatest: Uint32Array,
  o: number,
): void {
  let r0 = 255,
    g0 = 255,
    b0 = 255,
    a0 = 255,
    r1 = 0,
    g1 = 0,
    b1 = 0,
    a1 = 0
  for (let i = from; i < to; i++) {
    const word = pixels[i],
      r = word & 255,
      g = (word >>> 8) & 255,
      b = (word >>> 16) & 255,
      a = word >>> 24
    if (r < r0) r0 = r
    if (r > r1) r1 = r
    if (g < g0) g0 = g
    if (g > g1) g1 = g
    if (b < b0) b0 = b
    if (b > b1) b1 = b
    if (a < a0) a0 = a
    if (a > a1) a1 = a
  }
  least[o] = (r0 | (g0 << 8) | (b0 << 16) | (a0 << 24)) >>> 0
  greatest[o] = (r1 | (g1 << 8) | (b1 << 16) | (a1 << 24)) >>> 0
}
