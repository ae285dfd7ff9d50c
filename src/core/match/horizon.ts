/**
 * Where the horizon lies, from where the sky ends and from what the network takes to lie below the horizon.
 *
 * Sky never reaches below it, and what hides it is as a rule the higher the more the skyline varies. Where the skyline is a straight line (the sea, a plain)
 * it is the horizon, with its tilt. The network tells it from all else, from how things become smaller with distance, too, and is wrong in other places:
 * the two together are nearer than either (docs/QUALITY.md). Measured on ray-traced places (training/scenes/places.py) and photographs.
 */
import { type Likelihood } from '../network/likelihood'
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

/** So much a pixel of what the network sees may say, nats. */
const LOUDEST = 4
/** Where both lie no farther apart than this share of the height, the horizon lies between them; else the network is right. */
const TOGETHER = 0.1

/**
 * Null where too little sky is there.
 * @param sky coverage of the sky @param below what the network takes to lie below the horizon, of the whole picture; null without the network
 */
export function horizonOf(sky: Matte, below: Likelihood | null = null): Horizon | null {
  const told = fromSkyline(sky)
  if (!told || !below) return told
  const y = (rowOf(below) * sky.height) / below.height
  if (Math.abs(told.y - y) > TOGETHER * sky.height) return { y, tilt: 0, seen: false }
  return told.seen ? told : { ...told, y: (told.y + y) / 2 }
}

/** The row above which the fewest pixels are taken to lie below the horizon, and the other way round, each counted by how surely: px from the top, 0 to the height. */
export function rowOf({ width, height, data }: Likelihood): number {
  const above = new Float64Array(height + 1)
  for (let y = 0; y < height; y++) {
    above[y + 1] = above[y]
    for (let x = 0; x < width; x++) above[y + 1] += Math.min(LOUDEST, Math.max(-LOUDEST, data[y * width + x]))
  }
  const row = above.indexOf(Math.min(...above))
  if (row === 0 || row === height) return row
  // Between rows: the lowest point of the parabola through three.
  const bend = above[row - 1] - 2 * above[row] + above[row + 1]
  return bend > 0 ? row + (above[row - 1] - above[row + 1]) / (2 * bend) : row
}

/** @param sky coverage of the sky */
function fromSkyline({ width, height, data }: Matte): Horizon | null {
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
