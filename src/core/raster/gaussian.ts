/**
 * Gaussian blur of a matte at a cost that does not depend on the radius.
 *
 * Large sigmas work on a reduced grid: a box mean takes the matte down by a whole factor k, a sampled Gaussian blurs it there,
 * and a cubic B-spline brings it back. The variances of the three kernels add up (k²/3 for the spline), so the
 * middle one gets what is left of sigma² (the box, over whole pixels, has (k² − 1)/12). Source: Unser, Aldroubi and Eden, "B-spline signal processing", IEEE Trans. Signal
 * Processing 41 (1993): B-splines tend to Gaussians and reproduce smooth signals; the separable Gaussian itself is common practice.
 * Outside the matte the coverage of its nearest edge pixel goes on, so a selection that touches the canvas edge keeps its edge there.
 */
import { type Matte, type Size } from './picture'

/** Below this sigma (px) the matte is blurred on its own grid; above, on one reduced so far that sigma there stays over SIGMA_REDUCED. */
const SIGMA_DIRECT = 5.4
const SIGMA_REDUCED = 2.7
/** How many sigmas either side the sampled kernel reaches: what is cut off is below 1/2000. */
const REACH = 3.5
/** Pixels along a row that are skipped together where the matte is flat. */
const BLOCK = 64
/** Cells that the cubic B-spline looks beyond the matte. */
const SPLINE_REACH = 2

/** @param sigma standard deviation in px, 0 or more. Returns a new matte. Throws RangeError for a negative or non-finite sigma. */
export function gaussianBlur(matte: Matte, sigma: number): Matte {
  if (!Number.isFinite(sigma) || sigma < 0) throw new RangeError(`Blur takes a sigma of 0 px or more, not ${sigma}.`)
  if (sigma < 0.05) return { ...matte, data: matte.data.slice() }
  const factor = sigma <= SIGMA_DIRECT ? 1 : Math.floor(sigma / SIGMA_REDUCED)
  if (factor <= 1) return { ...matte, data: blurGrid(matte.data, new Uint8Array(matte.data.length), matte, sigma, 0.5) }
  const rest = Math.sqrt(sigma * sigma - (factor * factor - 1) / 12 - (factor * factor) / 3) / factor
  const margin = Math.ceil(REACH * rest) + SPLINE_REACH
  const small = reduce(matte, factor, margin)
  const blurred = blurGrid(small.data, new Float32Array(small.data.length), small, rest, 0)
  return enlarge({ ...small, data: blurred }, factor, margin, matte)
}

/** One side of a normalised sampled Gaussian: weights[0] is the centre. */
export function gaussianKernel(sigma: number): Float32Array {
  const radius = Math.max(1, Math.ceil(REACH * sigma))
  const weights = new Float32Array(radius + 1)
  let sum = 0
  for (let i = 0; i <= radius; i++) {
    weights[i] = Math.exp(-(i * i) / (2 * sigma * sigma))
    sum += i ? 2 * weights[i] : weights[i]
  }
  return weights.map((w) => w / sum)
}

interface Floats {
  width: number
  height: number
  data: Float32Array
}

/** Box means of factor × factor pixels, with `margin` more cells all round in which the edge pixels go on. */
function reduce({ width, height, data }: Matte, factor: number, margin: number): Floats {
  const columns = Math.ceil(width / factor),
    rows = Math.ceil(height / factor)
  const out = {
    width: columns + 2 * margin,
    height: rows + 2 * margin,
    data: new Float32Array((columns + 2 * margin) * (rows + 2 * margin)),
  }
  const sums = new Float64Array(columns)
  for (let row = -margin; row < rows + margin; row++) {
    sums.fill(0)
    let first = 0,
      last = 0 // sums down the edge columns
    for (let k = 0; k < factor; k++) {
      let i = Math.min(Math.max(row * factor + k, 0), height - 1) * width
      first += data[i]
      last += data[i + width - 1]
      for (let column = 0; column < columns; column++) {
        const whole = Math.min(factor, width - column * factor)
        let sum = 0
        for (const end = i + whole; i < end; i++) sum += data[i]
        sums[column] += whole < factor ? sum + (factor - whole) * data[i - 1] : sum
      }
    }
    const line = out.data.subarray((row + margin) * out.width, (row + margin + 1) * out.width)
    line.fill(first / factor, 0, margin)
    line.fill(last / factor, margin + columns)
    for (let column = 0; column < columns; column++) line[margin + column] = sums[column] / (factor * factor)
  }
  return out
}

/** Cubic B-spline weights of the four cells around a place `t` (0-1) between the second and the third. */
function splineWeights(t: number): [number, number, number, number] {
  const u = 1 - t
  return [(u * u * u) / 6, 2 / 3 - (t * t * (2 - t)) / 2, 2 / 3 - (u * u * (2 - u)) / 2, (t * t * t) / 6]
}

function enlarge(small: Floats, factor: number, margin: number, { width, height }: Matte): Matte {
  const data = new Uint8Array(width * height)
  const columns = Math.ceil(width / factor)
  const line = new Float32Array(columns + 4) // two cells either side of the ones in the matte
  const phases = Array.from({ length: factor }, (_, k) => {
    const place = (k + 0.5) / factor - 0.5
    return { cell: Math.floor(place), weights: splineWeights(place - Math.floor(place)) }
  })
  const before = phases.filter(({ cell }) => cell < 0).length
  const weights = Float64Array.from(phases.flatMap((phase) => phase.weights))
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / factor),
      vertical = phases[y - row * factor]
    const [a, b, c, d] = vertical.weights
    const first = (row + vertical.cell - 1 + margin) * small.width + margin - 2
    const r0 = small.data.subarray(first),
      r1 = small.data.subarray(first + small.width),
      r2 = small.data.subarray(first + 2 * small.width),
      r3 = small.data.subarray(first + 3 * small.width)
    for (let x = 0; x < line.length; x++) line[x] = a * r0[x] + b * r1[x] + c * r2[x] + d * r3[x] + 0.5
    // Output pixels before the middle of a cell lie between it and the cell before, the others between it and the next.
    let i = y * width
    const end = i + width
    for (let cell = 0; cell < columns; cell++) {
      const p = line[cell],
        q = line[cell + 1],
        r = line[cell + 2],
        s = line[cell + 3],
        t = line[cell + 4]
      if (p === q && q === r && r === s && s === t) {
        for (const stop = Math.min(end, i + factor); i < stop; i++) data[i] = r
        continue
      }
      for (let k = 0; k < factor && i < end; k++, i++) {
        const w = 4 * k
        data[i] =
          k < before
            ? weights[w] * p + weights[w + 1] * q + weights[w + 2] * r + weights[w + 3] * s
            : weights[w] * q + weights[w + 1] * r + weights[w + 2] * s + weights[w + 3] * t
      }
    }
  }
  return { width, height, data }
}

/** Separable sampled Gaussian from `data` to `out`, adding `offset` (for rounding); skips blocks where nothing changes within its reach. */
function blurGrid<T extends Uint8Array | Float32Array>(
  data: T,
  out: T,
  { width, height }: Size,
  sigma: number,
  offset: number,
): T {
  const weights = gaussianKernel(sigma)
  const radius = weights.length - 1,
    rows = 2 * radius + 1
  const blocks = Math.ceil(width / BLOCK)
  const lines = Array.from({ length: rows }, () => new Float32Array(width))
  const padded = new Float32Array(blocks * BLOCK + 2 * radius)
  const flatValue = new Float32Array(blocks).fill(-1),
    flatRows = new Int32Array(blocks) // how many last rows had that one value
  const sums = new Float32Array(BLOCK)

  /** Blurs row `y` (clamped) along x into its slot, and counts for each block how long it has been flat. */
  const horizontal = (y: number) => {
    const row = Math.min(Math.max(y, 0), height - 1),
      line = lines[(y + radius) % rows],
      first = row * width,
      last = first + width - 1
    for (let block = 0; block < blocks; block++) {
      const start = block * BLOCK,
        end = Math.min(width, start + BLOCK),
        to = Math.min(last, first + end - 1 + radius)
      let i = Math.max(first, first + start - radius)
      const value = data[i]
      while (i <= to && data[i] === value) i++
      if (i > to) {
        flatRows[block] = flatValue[block] === value ? flatRows[block] + 1 : 1
        flatValue[block] = value
        line.fill(value, start, end)
        continue
      }
      for (let x = start - radius; x < end + radius; x++)
        padded[x + radius] = data[x < 0 ? first : x >= width ? last : first + x]
      flatValue[block] = -1
      flatRows[block] = 0
      for (let x = start; x < end; x++) {
        let sum = weights[0] * padded[x + radius]
        for (let k = 1; k <= radius; k++) sum += weights[k] * (padded[x + radius - k] + padded[x + radius + k])
        line[x] = sum
      }
    }
  }
  for (let y = -radius; y < radius; y++) horizontal(y)
  for (let y = 0; y < height; y++) {
    horizontal(y + radius)
    for (let block = 0; block < blocks; block++) {
      const start = block * BLOCK,
        size = Math.min(width - start, BLOCK),
        at = y * width + start
      if (flatRows[block] >= rows) {
        out.fill(flatValue[block], at, at + size)
        continue
      }
      const centre = lines[(y + radius) % rows]
      for (let x = 0; x < size; x++) sums[x] = weights[0] * centre[start + x] + offset
      for (let k = 1; k <= radius; k++) {
        const above = lines[(y + radius - k) % rows],
          below = lines[(y + radius + k) % rows],
          weight = weights[k]
        for (let x = 0; x < size; x++) sums[x] += weight * (above[start + x] + below[start + x])
      }
      for (let x = 0; x < size; x++) out[at + x] = sums[x]
    }
  }
  return out
}
