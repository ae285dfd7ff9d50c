/**
 * How soft a picture is along the boundary of a matte, or at its edges: the sigma, px, of the Gaussian that a sharp edge would have to be blurred with.
 * An edge that is blurred once more loses the more of its steepness the sharper it was.
 * Source: Zhuo and Sim, "Defocus map estimation from a single image", Pattern Recognition 44 (2011).
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { luma } from '../compose/adjustments/adjustment'
import { gaussianKernel } from '../raster/gaussian'
import { type Matte, type Picture } from '../raster/picture'

/** The second blur, px. */
const AGAIN = 1.5
/** How far around a place is looked at, px. */
const AROUND = 7
/** Places looked at, at most, and at least. */
const MOST = 4000,
  ENOUGH = 40
/** Edges less steep than this share of the steepest tenth tell little. */
const STEEP = 0.35
/** What the pixel's own square and the difference of its two neighbours add to the variance, px². */
const OWN = 1 / 12 + 1 / 3

/** Null where the boundary is too short or too weak. */
export const edgeBlurOf = (picture: Picture, matte: Matte): number | null => blurAt(picture, boundary(matte))

/** The same of the edges in a picture's opaque part, wherever they are; null where there are too few. */
export const blurOf = (picture: Picture): number | null => blurAt(picture, edgesOf(picture))

function blurAt(picture: Picture, places: readonly number[]): number | null {
  const { width, height } = picture
  const found: { steep: number; variance: number }[] = []
  const side = 2 * AROUND + 1,
    light = new Float32Array(side * side),
    once = new Float32Array(side * side),
    again = new Float32Array(side * side),
    kernel = gaussianKernel(AGAIN)
  for (const i of places) {
    const x = i % width,
      y = Math.floor(i / width)
    if (x < AROUND || y < AROUND || x >= width - AROUND || y >= height - AROUND) continue
    for (let v = 0; v < side; v++)
      for (let u = 0; u < side; u++) {
        const j = ((y + v - AROUND) * width + x + u - AROUND) * 4
        light[v * side + u] = luma(
          LINEAR_OF_BYTE[picture.data[j]],
          LINEAR_OF_BYTE[picture.data[j + 1]],
          LINEAR_OF_BYTE[picture.data[j + 2]],
        )
      }
    blurMiddle(light, side, kernel, once, again)
    const place = steepest(light, side),
      steep = slope(light, side, place),
      after = slope(again, side, place)
    if (after <= 0 || steep <= after) continue
    found.push({ steep, variance: AGAIN ** 2 / ((steep / after) ** 2 - 1) - OWN })
  }
  if (found.length < ENOUGH) return null
  const steepness = found.map((each) => each.steep).sort((a, b) => b - a),
    least = STEEP * steepness[Math.floor(found.length / 10)],
    variances = found.filter((each) => each.steep >= least).map((each) => each.variance)
  return Math.sqrt(Math.max(0, median(variances)))
}

/** Pixels of the boundary where it parts two wide sides (twigs and wires tell nothing), evenly thinned out. */
function boundary(matte: Matte): number[] {
  const { width, height, data } = matte,
    out: number[] = [],
    parts = (i: number, j: number) => data[i] >= 128 !== data[j] >= 128,
    inFours = width % 4 === 0 && data.byteOffset % 4 === 0,
    fours = inFours ? new Int32Array(data.buffer, data.byteOffset, data.length >> 2) : undefined
  for (let y = AROUND; y < height - AROUND; y++)
    for (let x = AROUND, i = y * width + x; x < width - AROUND; x++, i++) {
      // Nothing ends where all is alike: most of a matte; four px at a time where all are full or empty.
      if (fours && i % 4 === 0) {
        const four = fours[i >> 2]
        if ((four === 0 || four === -1) && four === fours[(i + width) >> 2] && data[i] === data[i + 4]) {
          x += 3
          i += 3
          continue
        }
      }
      if (data[i] === data[i + 1] && data[i] === data[i + width]) continue
      if ((parts(i, i + 1) || parts(i, i + width)) && partsSides(matte, x, y)) out.push(i)
    }
  const step = Math.max(1, Math.ceil(out.length / MOST))
  return out.filter((_, k) => k % step === 0)
}

/** An edge stands so far out of what is round about, luma levels between neighbours but one. */
const CLEAR = 12
/** So many pixels are looked at for edges, at most, in rows evenly apart. */
const LOOKED_AT = 2_000_000

/** Places where luma changes most along its slope, evenly thinned out, the clear ones. */
function edgesOf({ width, height, data }: Picture): number[] {
  // What is not opaque is NaN and never as steep as anything.
  const grey = (i: number) => (data[4 * i + 3] === 255 ? luma(data[4 * i], data[4 * i + 1], data[4 * i + 2]) : NaN),
    across = (i: number) => grey(i + 1) - grey(i - 1),
    down = (i: number) => grey(i + width) - grey(i - width),
    steep = (i: number) => Math.hypot(across(i), down(i)),
    sides = [-AROUND, 0, AROUND],
    /** All that would be looked at is there. */
    whole = (i: number) => sides.every((dy) => sides.every((dx) => data[4 * (i + dy * width + dx) + 3] === 255))
  const rows = Math.ceil((width * height) / LOOKED_AT),
    out: number[] = []
  for (let y = AROUND; y < height - AROUND; y += rows)
    for (let x = AROUND, i = y * width + x; x < width - AROUND; x++, i++) {
      const right = across(i),
        below = down(i),
        own = Math.hypot(right, below)
      if (!(own >= CLEAR)) continue
      const step = Math.abs(right) > Math.abs(below) ? 1 : width
      if (own >= steep(i - step) && own > steep(i + step) && whole(i)) out.push(i)
    }
  const apart = Math.max(1, Math.ceil(out.length / MOST))
  return out.filter((_, k) => k % apart === 0)
}

/** One way across it is inside all along, the other way outside. */
function partsSides({ width, data }: Matte, x: number, y: number): boolean {
  const at = (u: number, v: number) => data[(y + Math.round(v)) * width + x + Math.round(u)]
  let across = 0,
    down = 0
  for (const k of [-2, -1, 0, 1, 2]) {
    across += at(3, k) - at(-3, k)
    down += at(k, 3) - at(k, -3)
  }
  const far = Math.hypot(across, down)
  if (far === 0) return false
  for (let d = 2; d <= AROUND; d++) {
    const u = (d * across) / far,
      v = (d * down) / far
    if (at(u, v) < 250 && d > 3) return false
    if (at(-u, -v) > 5 && d > 3) return false
  }
  return true
}

const slope = (light: Float32Array, side: number, i: number): number =>
  Math.hypot(light[i + 1] - light[i - 1], light[i + side] - light[i - side]) / 2

/** The steepest place near the middle. */
function steepest(light: Float32Array, side: number): number {
  let best = AROUND * side + AROUND
  for (let y = AROUND - 2; y <= AROUND + 2; y++)
    for (let x = AROUND - 2; x <= AROUND + 2; x++)
      if (slope(light, side, y * side + x) > slope(light, side, best)) best = y * side + x
  return best
}

/** Blurs what lies up to three px from the middle; `kernel` reaches farther than the window only where it is all but nothing. */
function blurMiddle(
  light: Float32Array,
  side: number,
  kernel: Float32Array,
  across: Float32Array,
  out: Float32Array,
): void {
  const least = AROUND - 4,
    most = AROUND + 4,
    pass = (from: Float32Array, to: Float32Array, step: number, rows: readonly [number, number]) => {
      for (let y = rows[0]; y <= rows[1]; y++)
        for (let x = least; x <= most; x++) {
          let sum = 0,
            weights = 0
          for (let k = -kernel.length + 1; k < kernel.length; k++) {
            const at = step === 1 ? x + k : y + k
            if (at < 0 || at >= side) continue
            const weight = kernel[Math.abs(k)]
            sum += weight * from[y * side + x + k * step]
            weights += weight
          }
          to[y * side + x] = sum / weights
        }
    }
  pass(light, across, 1, [0, side - 1])
  pass(across, out, side, [least, most])
}

function median(values: readonly number[]): number {
  const sorted = Float64Array.from(values).sort()
  return sorted.length ? sorted[sorted.length >> 1] : 0
}
