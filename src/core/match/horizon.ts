/**
 * Where the horizon lies, from where the sky ends: sky never reaches below it, and what hides it is as a rule the higher the more the skyline varies.
 * Where the skyline is a straight line (the sea, a plain) it is the horizon, with its tilt. Measured on ray-traced places (training/scenes/places.py).
 */
import { type Matte } from '../raster/picture'

export interface Horizon {
  /** Its row in the middle of the picture, px from the top; may lie below the picture. */
  readonly y: number
  /** Degrees clockwise: the right end lies lower. */
  readonly tilt: number
  /** Seen as a line, not only guessed from where the sky ends. */
  readonly seen: boolean
}

/** The sky's lowest twentieth lies above the horizon by this share of the picture's height and of how far the skyline varies, at most so much. */
const HIDDEN = 0.004,
  BY_VARIATION = 0.4,
  MOST = 0.03
/** A skyline is straight when it stays this near to a line, as a share of the picture's height, over this share of its columns. */
const STRAIGHT = 0.002,
  ALONG = 0.7
/** Ends are known to whole px. */
const WHOLE = 0.75
/** The sky must reach down in this share of the columns. */
const ENOUGH = 0.2

/** Null where too little sky is there. @param sky coverage of the sky */
export function horizonOf({ width, height, data }: Matte): Horizon | null {
  const lowest = new Int32Array(width).fill(-1),
    open = Int32Array.from(lowest.keys())
  let last = data.length - 1
  while (last >= 0 && data[last] < 128) last--
  // From the lowest row that has any: columns whose sky has not been met yet.
  for (let y = Math.floor(last / width), left = width; y >= 0 && left > 0; y--) {
    let still = 0
    for (let k = 0; k < left; k++) {
      const x = open[k]
      if (data[y * width + x] >= 128) lowest[x] = y
      else open[still++] = x
    }
    left = still
  }
  const ends: [x: number, y: number][] = []
  lowest.forEach((y, x) => y >= 0 && ends.push([x, y + 1]))
  if (ends.length < ENOUGH * width) return null
  const line = straight(ends, Math.max(WHOLE, STRAIGHT * height))
  if (line && line.on >= ALONG * width)
    return {
      y: line.offset + (line.slope * width) / 2,
      tilt: (Math.atan(line.slope) * 180) / Math.PI,
      seen: true,
    }
  const sorted = ends.map(([, y]) => y).sort((a, b) => b - a),
    low = sorted[Math.floor(sorted.length / 20)],
    varies = low - sorted[sorted.length >> 1]
  return { y: low + Math.min(MOST * height, HIDDEN * height + BY_VARIATION * varies), tilt: 0, seen: false }
}

/** The line that most ends lie near to, of those through two of them. Source: Fischler and Bolles, "Random sample consensus" (1981); here every pair of a coarse grid instead of random ones. */
function straight(ends: readonly (readonly [number, number])[], near: number) {
  const few = ends.filter((_, k) => k % Math.max(1, Math.floor(ends.length / 60)) === 0)
  let best: { slope: number; offset: number; on: number } | null = null
  for (let i = 0; i < few.length; i++)
    for (let j = i + 1; j < few.length; j++) {
      const slope = (few[j][1] - few[i][1]) / (few[j][0] - few[i][0])
      if (Math.abs(slope) > 0.3) continue
      const offset = few[i][1] - slope * few[i][0],
        on = few.filter(([x, y]) => Math.abs(y - offset - slope * x) <= near).length
      if (on > (best?.on ?? 0)) best = { slope, offset, on }
    }
  if (!best) return null
  const on = ends.filter(([x, y]) => Math.abs(y - best.offset - best.slope * x) <= near)
  // The mean line of those.
  const mx = on.reduce((sum, [x]) => sum + x, 0) / on.length,
    my = on.reduce((sum, [, y]) => sum + y, 0) / on.length,
    slope =
      on.reduce((sum, [x, y]) => sum + (x - mx) * (y - my), 0) /
      Math.max(
        1,
        on.reduce((sum, [x]) => sum + (x - mx) ** 2, 0),
      )
  return { slope, offset: my - slope * mx, on: on.length }
}
