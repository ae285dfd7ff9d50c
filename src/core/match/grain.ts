/**
 * Grain: how much a picture varies where nothing is drawn, by tone.
 * Squares of the picture are freed of their slope; where most of them show nothing but grain, what is left of them lies close together, and where it lies
 * closest is the grain. Sources: Pyatykh, Hesser and Zheng, "Image noise level estimation", IEEE Trans. Image Processing 22 (2013): flat squares tell the
 * noise; Bickel and Frühwirth, "On a fast, robust estimator of the mode" (2006): the half-sample mode.
 */
import { luma } from '../compose/adjustments/adjustment'
import { type Picture } from '../raster/picture'

/** Side of a square, px, and how many are looked at, at most. */
const SIDE = 8,
  MOST = 24_000
/** A tone needs so many squares to be told. */
const ENOUGH = 24
/** Tones told apart. */
const TONES = 8
/** A tone that varies so many times as much as the whole is nowhere calm. */
const TEXTURE = 2.5
/** What varies less is still: smoothed away by the file's compression, or drawn, levels. A picture that is mostly still has no grain. */
const LEAST = 0.15

export interface Grain {
  /** Standard deviation of a channel, levels (0-255). */
  readonly deviation: number
  /** The same by tone (middle of its range, luma 0-1), where it can be told. */
  readonly byTone: readonly { readonly tone: number; readonly deviation: number }[]
}

/** Null where the picture is too small or nowhere calm. */
export function grainOf({ width, height, data }: Picture): Grain | null {
  const across = Math.floor(width / SIDE),
    down = Math.floor(height / SIDE),
    step = Math.max(1, Math.floor((across * down) / MOST))
  const byTone: number[][] = Array.from({ length: TONES }, () => [])
  let still = 0
  for (let k = 0; k < across * down; k += step) {
    const x = (k % across) * SIDE,
      y = Math.floor(k / across) * SIDE,
      found = squareAt(data, width, x, y)
    if (found && found.deviation < LEAST) still++
    else if (found) byTone[Math.min(TONES - 1, Math.floor(found.tone * TONES))].push(found.deviation)
  }
  const all = byTone.flat()
  if (still >= ENOUGH && still > all.length) return { deviation: 0, byTone: [] }
  if (all.length < ENOUGH) return null
  const deviation = mode(all)
  return {
    deviation,
    byTone: byTone.flatMap((found, k) => {
      const own = found.length < ENOUGH ? Infinity : mode(found)
      return own > TEXTURE * deviation ? [] : [{ tone: (k + 0.5) / TONES, deviation: own }]
    }),
  }
}

/** Standard deviation at a tone (luma 0-1): of the nearest tone it is told of. Levels. */
export const deviationAt = ({ deviation, byTone }: Grain, tone: number): number =>
  byTone.reduce((best, each) => (Math.abs(each.tone - tone) < Math.abs(best.tone - tone) ? each : best), {
    tone: Infinity,
    deviation,
  }).deviation

/** Mean luma, and how far the channels vary around a plane; null where something is clipped. */
function squareAt(data: Uint8ClampedArray, width: number, left: number, top: number) {
  const middle = (SIDE - 1) / 2,
    count = SIDE * SIDE,
    /** Sum of squares of a coordinate around its middle. */ spread = (count * (SIDE * SIDE - 1)) / 12,
    means = [0, 0, 0]
  let variance = 0
  for (let c = 0; c < 3; c++) {
    let sum = 0,
      squares = 0,
      byX = 0,
      byY = 0
    for (let y = 0; y < SIDE; y++)
      for (let x = 0, i = ((top + y) * width + left) * 4 + c; x < SIDE; x++, i += 4) {
        const v = data[i]
        if (v === 0 || v === 255 || data[i + 3 - c] !== 255) return null
        sum += v
        squares += v * v
        byX += v * (x - middle)
        byY += v * (y - middle)
      }
    means[c] = sum / count
    variance += (squares - (sum * sum) / count - (byX * byX + byY * byY) / spread) / (count - 3)
  }
  const deviation = Math.sqrt(Math.max(0, variance / 3))
  return { tone: luma(means[0], means[1], means[2]) / 255, deviation }
}

/** Where values lie closest together: the half with the least range, again and again. */
function mode(values: readonly number[]): number {
  let sorted = Float64Array.from(values).sort()
  while (sorted.length > 3) {
    const half = Math.ceil(sorted.length / 2)
    let best = 0
    for (let i = 1; i + half <= sorted.length; i++)
      if (sorted[i + half - 1] - sorted[i] < sorted[best + half - 1] - sorted[best]) best = i
    sorted = sorted.subarray(best, best + half)
  }
  return sorted.reduce((sum, v) => sum + v, 0) / sorted.length
}
