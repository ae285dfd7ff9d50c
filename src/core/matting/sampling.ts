/**
 * Coverage from pairs of colours: for each unknown pixel the nearest known pixels in several directions are tried as its foreground and
 * background, and the pair that explains it best, and is near, decides. For busy surroundings, where no single colour stands for a side.
 * Source: Gastal and Oliveira, "Shared sampling for real-time alpha matting", Eurographics 2010 (gathering along rays).
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { type Size } from '../raster/picture'
import { type Level } from './level'

const RAYS = 12,
  FARTHEST = 300
/** Where each ray is after so many px, px: FARTHEST of them for each ray. */
const alongRays = (part: (angle: number) => number) =>
    Int16Array.from({ length: RAYS * FARTHEST }, (_, i) =>
      Math.round(part((2 * Math.PI * Math.floor(i / FARTHEST)) / RAYS) * (i % FARTHEST)),
    ),
  ACROSS = alongRays(Math.cos),
  DOWN = alongRays(Math.sin)
/** How much the way to a sample counts beside what the pair leaves unexplained (linear colours squared), a px. */
const WAY = 2e-5
/** Unexplained colour at which a pair counts half, and the squared difference of its two colours at which it does. */
const UNEXPLAINED = 1e-3,
  CONTRAST = 0.02
const FULL = 250 / 255,
  EMPTY = 5 / 255

/** Coverage of the unknown pixels, 0-1, and how surely it is told, 0-1. */
export interface Samples {
  readonly coverage: Float32Array
  readonly sure: Float32Array
}
/** Room for them, zero. */
export const roomForSamples = ({ width, height }: Size, floats: (length: number) => Float32Array): Samples => ({
  coverage: floats(width * height),
  sure: floats(width * height),
})

/** How many px at least, along any ray, it is to what is known, up to 255: the distance along rows or along columns, whichever is longer. @param away zero, filled with it */
export function wayToKnown(
  unknown: Uint8Array,
  { width, height }: Size,
  away: Uint8Array = new Uint8Array(width * height),
): Uint8Array {
  const ways = new Uint8Array(width + 2).fill(FAR) // of the row before, with a px at both ends
  const pass = (y: number, step: 1 | -1) => {
    const row = y * width,
      start = step > 0 ? 0 : width - 1
    let diagonal = ways[start + 1 - step],
      beside = FAR
    for (let n = 0, x = start; n < width; n++, x += step) {
      const above = ways[x + 1],
        least = Math.min(diagonal, above, ways[x + 1 + step], beside, FAR - 1) + 1
      diagonal = above
      beside = unknown[row + x] ? (away[row + x] ? Math.min(away[row + x], least) : least) : 0
      ways[x + 1] = away[row + x] = beside
    }
  }
  for (let y = 0; y < height; y++) pass(y, 1)
  ways.fill(FAR)
  for (let y = height - 1; y >= 0; y--) pass(y, -1)
  return away
}
const FAR = 255

/** Of rows `from` to (without) `to`. @param away how far it is to what is known @param out zero */
export function sampledCoverage(
  { picture: { width, height, data }, unknown, alpha }: Level,
  away: Uint8Array,
  { coverage, sure }: Samples,
  from = 0,
  to = height,
): void {
  const inside = new Int32Array(RAYS),
    outside = new Int32Array(RAYS),
    insideWay = new Int32Array(RAYS),
    outsideWay = new Int32Array(RAYS),
    light = LINEAR_OF_BYTE
  for (let y = from, i = from * width; y < to; y++) {
    for (let x = 0; x < width; x++, i++) {
      if (!unknown[i]) continue
      let insides = 0,
        outsides = 0
      for (let k = 0; k < RAYS; k++)
        for (let way = away[i]; way < FARTHEST;) {
          const u = x + ACROSS[k * FARTHEST + way],
            v = y + DOWN[k * FARTHEST + way]
          if (u < 0 || v < 0 || u >= width || v >= height) break
          const j = v * width + u
          if (unknown[j]) {
            way += away[j] // all between is unknown
            continue
          }
          if (alpha[j] > FULL) {
            inside[insides] = j
            insideWay[insides++] = way
          } else if (alpha[j] < EMPTY) {
            outside[outsides] = j
            outsideWay[outsides++] = way
          }
          break
        }
      coverage[i] = insides ? (outsides ? alpha[i] : 1) : outsides ? 0 : alpha[i]
      const r = light[data[i * 4]],
        g = light[data[i * 4 + 1]],
        b = light[data[i * 4 + 2]]
      let best = Infinity
      for (let n = 0; n < outsides; n++) {
        const o = outside[n] * 4,
          or = light[data[o]],
          og = light[data[o + 1]],
          ob = light[data[o + 2]],
          cr = r - or,
          cg = g - og,
          cb = b - ob
        for (let m = 0; m < insides; m++) {
          const p = inside[m] * 4,
            dr = light[data[p]] - or,
            dg = light[data[p + 1]] - og,
            db = light[data[p + 2]] - ob,
            contrast = dr * dr + dg * dg + db * db + 1e-9
          const share = (cr * dr + cg * dg + cb * db) / contrast,
            a = share < 0 ? 0 : share > 1 ? 1 : share,
            left = (cr - a * dr) ** 2 + (cg - a * dg) ** 2 + (cb - a * db) ** 2,
            cost = left + WAY * (insideWay[m] + outsideWay[n])
          if (cost < best) {
            best = cost
            coverage[i] = a
            sure[i] = ((UNEXPLAINED / (UNEXPLAINED + left)) * (contrast / (contrast + CONTRAST))) ** 2
          }
        }
      }
    }
  }
}
