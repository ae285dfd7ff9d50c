/**
 * The edge ribbon: the whole boundary of a matte unrolled into a strip, arc length across, distance from the edge up and down.
 * The line that is followed is the 50 % contour of a calmed matte, so that hair does not lead it astray; contours come one after
 * another, the longest first. Straightening along a curve: common practice in shape analysis ("unwrapping along the normal").
 */
import { gaussianBlur } from '../raster/gaussian'
import { halveMatte } from '../raster/levels'
import { type Matte, type Picture } from '../raster/picture'
import { traceMatte } from '../vector/trace'

export interface Ribbon {
  /** Whole px along all contours. */
  readonly length: number
  /** For each px along: x, y on the canvas, and the unit normal that points out of the selection. */
  readonly places: Float32Array
  /** Where each contour begins; the last entry is `length`. */
  readonly starts: readonly number[]
}

/** The line is followed on a level of at most so many px, blurred by so many px there. */
const FOLLOW_PIXELS = 800_000,
  CALM = 2
/** Contours shorter than this are specks, px; and there are at most so many of them. */
const SHORTEST = 24,
  MOST_CONTOURS = 400
/** Normals are taken over so many px along on either side. */
const SWAY = 12

/** The boundary unrolled; of length 0 where there is none. */
export function unroll(matte: Matte): Ribbon {
  let small = matte,
    scale = 1
  while (small.width * small.height > FOLLOW_PIXELS) {
    small = halveMatte(small)
    scale *= 2
  }
  const contours = traceMatte(gaussianBlur(small, CALM))
    .map((points) => points.map((v) => v * scale))
    .map((points) => ({ points, length: lengthOf(points) }))
    .filter(({ length }) => length >= SHORTEST)
    .sort((a, b) => b.length - a.length)
    .slice(0, MOST_CONTOURS)
  const starts = [0]
  for (const { length } of contours) starts.push(starts.at(-1)! + Math.floor(length))
  const places = new Float32Array(4 * starts.at(-1)!)
  contours.forEach(({ points, length }, k) =>
    layAlong(points, length, places.subarray(4 * starts[k], 4 * starts[k + 1])),
  )
  return { length: starts.at(-1)!, places, starts }
}

function lengthOf(points: Float64Array): number {
  let sum = 0
  for (let i = 0, j = points.length - 2; i < points.length; j = i, i += 2)
    sum += Math.hypot(points[i] - points[j], points[i + 1] - points[j + 1])
  return sum
}

/** Equal steps along a closed contour, with normals. The inside lies to the right of the way, so out is to its left. */
function layAlong(points: Float64Array, length: number, into: Float32Array): void {
  const count = into.length / 4,
    step = length / count,
    xs = new Float64Array(count),
    ys = new Float64Array(count)
  let at = 0,
    i = 0
  const next = (k: number) => (k + 2) % points.length
  let side = Math.hypot(points[next(0)] - points[0], points[next(0) + 1] - points[1])
  for (let k = 0; k < count; k++) {
    const wanted = k * step
    while (at + side < wanted && i < points.length - 2) {
      at += side
      i += 2
      side = Math.hypot(points[next(i)] - points[i], points[next(i) + 1] - points[i + 1])
    }
    const t = side > 0 ? Math.min(1, (wanted - at) / side) : 0
    xs[k] = points[i] + t * (points[next(i)] - points[i])
    ys[k] = points[i + 1] + t * (points[next(i) + 1] - points[i + 1])
  }
  const sway = Math.min(SWAY, Math.floor((count - 1) / 2))
  for (let k = 0; k < count; k++) {
    const before = (k - sway + count) % count,
      after = (k + sway) % count,
      dx = xs[after] - xs[before],
      dy = ys[after] - ys[before],
      l = Math.hypot(dx, dy) || 1
    into[4 * k] = xs[k]
    into[4 * k + 1] = ys[k]
    into[4 * k + 2] = dy / l
    into[4 * k + 3] = -dx / l
  }
}

export interface RibbonView {
  /** px along at the left side; and px for each px of the result. */
  readonly from: number
  readonly step: number
  readonly width: number
  readonly height: number
  /** What lies behind: a colour, 0-255; checks; the picture as it is, with nothing taken away; or coverage as grey. */
  readonly backing: readonly [number, number, number] | 'checks' | 'picture' | 'matte'
}

/** Side of the checks, px of the result, and their two greys. */
const CHECK = 8,
  LIGHT = 255,
  DARK = 207
/** What lies beyond the ribbon's ends and the canvas. */
const NOTHING = 58

/** A part of the ribbon as pixels, the outside up, sampled bilinearly; `picture` in the subject's colours where fringe is taken out. */
export function ribbonPicture(
  ribbon: Ribbon,
  picture: Picture,
  matte: Matte,
  { from, step, width, height, backing }: RibbonView,
): Picture {
  const data = new Uint8ClampedArray(width * height * 4),
    source = picture.data,
    coverage = matte.data,
    across = picture.width,
    down = picture.height
  for (let u = 0; u < width; u++) {
    const along = from + u * step
    if (along < 0 || along >= ribbon.length) {
      for (let v = 0; v < height; v++) {
        const o = (v * width + u) * 4
        data[o] = data[o + 1] = data[o + 2] = NOTHING
        data[o + 3] = 255
      }
      continue
    }
    const k = 4 * Math.floor(along),
      x0 = ribbon.places[k] - 0.5,
      y0 = ribbon.places[k + 1] - 0.5,
      nx = ribbon.places[k + 2],
      ny = ribbon.places[k + 3]
    for (let v = 0; v < height; v++) {
      const out = (height / 2 - v - 0.5) * step,
        x = x0 + nx * out,
        y = y0 + ny * out,
        o = (v * width + u) * 4
      data[o + 3] = 255
      if (x < -0.5 || y < -0.5 || x > across - 0.5 || y > down - 0.5) {
        data[o] = data[o + 1] = data[o + 2] = NOTHING
        continue
      }
      const left = Math.max(0, Math.floor(x)),
        top = Math.max(0, Math.floor(y)),
        right = Math.min(across - 1, left + 1),
        low = Math.min(down - 1, top + 1),
        fx = Math.max(0, x - left),
        fy = Math.max(0, y - top)
      const p = top * across + left,
        q = top * across + right,
        r = low * across + left,
        s = low * across + right,
        wp = (1 - fx) * (1 - fy),
        wq = fx * (1 - fy),
        wr = (1 - fx) * fy,
        ws = fx * fy
      const alpha = (wp * coverage[p] + wq * coverage[q] + wr * coverage[r] + ws * coverage[s]) / 255
      if (backing === 'matte') {
        data[o] = data[o + 1] = data[o + 2] = alpha * 255
        continue
      }
      const check = (Math.floor(u / CHECK) + Math.floor(v / CHECK)) & 1 ? DARK : LIGHT
      for (let c = 0; c < 3; c++) {
        const own = wp * source[4 * p + c] + wq * source[4 * q + c] + wr * source[4 * r + c] + ws * source[4 * s + c]
        data[o + c] =
          backing === 'picture' ? own : own * alpha + (backing === 'checks' ? check : backing[c]) * (1 - alpha)
      }
    }
  }
  return { width, height, data }
}
