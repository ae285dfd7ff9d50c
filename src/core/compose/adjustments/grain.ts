import { flag, number } from '../../fields/fields'
import { type Adjustment, luma } from './adjustment'

/** The largest deviation at the slider's end, encoded. */
const REACH = 0.18

/** Evenly spread bits of a place. Source: Jarzynski and Olano, "Hash Functions for GPU Rendering", JCGT 9 (2020): pcg. */
function hash(x: number, y: number, seed: number): number {
  let v = Math.imul(x | 0, 0x1f123bb5) ^ Math.imul(y | 0, 0x5bd1e995) ^ Math.imul(seed | 0, 0x9e3779b9)
  v = Math.imul(v, 747796405) + 2891336453
  v = Math.imul((v >>> ((v >>> 28) + 4)) ^ v, 277803737)
  return ((v >>> 22) ^ v) >>> 0
}
/** About normal with a deviation of 1: the sum of four even shares of a hash's bits (their variances add up; Irwin-Hall). */
const normal = (bits: number): number =>
  (((bits & 255) + ((bits >>> 8) & 255) + ((bits >>> 16) & 255) + (bits >>> 24)) / 255 - 2) * 1.732

/** The deviation at a tone (luma 0-1), encoded. */
export const grainAt = (amount: number, tone: number): number =>
  REACH * amount * (0.35 + 2.6 * Math.max(0, tone * (1 - tone)))

/** Film-like grain, strongest in the middle tones; it stays in its place at every zoom, and averages out when seen from afar. */
export const grain: Adjustment<'grain', { amount: number; size: number; coloured: boolean; seed: number }> = {
  kind: 'grain',
  values: 'encoded',
  fields: { amount: number(0, 1, 0.25), size: number(0.5, 50, 1.5), coloured: flag(false), seed: number(0, 1e6, 1) },
  rows({ amount, size, coloured, seed }, region) {
    if (amount === 0) return null
    const pixel = 2 ** region.level,
      step = pixel / size,
      strength = amount * Math.min(1, size / pixel)
    // Between the grains' places values are mixed smoothly, and scaled so that the mixing takes nothing off their deviation on the whole.
    const noise = (u: number, v: number, layer: number): number => {
      if (step >= 1) return normal(hash(Math.floor(u), Math.floor(v), seed + layer))
      const x = Math.floor(u),
        y = Math.floor(v),
        fx = u - x,
        fy = v - y
      const a = normal(hash(x, y, seed + layer)),
        b = normal(hash(x + 1, y, seed + layer)),
        c = normal(hash(x, y + 1, seed + layer)),
        d = normal(hash(x + 1, y + 1, seed + layer))
      const w = Math.sqrt(((1 - fx) ** 2 + fx ** 2) * ((1 - fy) ** 2 + fy ** 2))
      return ((a * (1 - fx) + b * fx) * (1 - fy) + (c * (1 - fx) + d * fx) * fy) / w
    }
    return (row, y) => {
      for (let i = 0, x = 0; i < row.length; i += 4, x++) {
        const u = (region.x + x + 0.5) * step,
          v = (region.y + y + 0.5) * step
        const tone = luma(row[i], row[i + 1], row[i + 2]),
          by = grainAt(strength, tone)
        if (coloured) for (let c = 0; c < 3; c++) row[i + c] += by * noise(u, v, c)
        else {
          const n = by * noise(u, v, 0)
          row[i] += n
          row[i + 1] += n
          row[i + 2] += n
        }
      }
    }
  },
}
