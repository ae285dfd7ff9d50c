/**
 * How far a matte is from the truth.
 * Source: Rhemann, Rother, Wang, Gelautz, Kohli and Rott, "A perceptually motivated online benchmark for image matting", CVPR 2009
 * (section 5: sum of absolute differences, mean squared error, gradient and connectivity errors with their parameters).
 */
import { mapInto } from '../raster/mapInto'
import { type Matte } from '../raster/picture'

export interface MatteErrors {
  /** Sum of absolute differences of coverage 0-1, in thousands. */
  readonly sad: number
  /** Mean squared difference of coverage 0-1. */
  readonly mse: number
  /** Sum of squared differences of the gradients' lengths, in thousands. */
  readonly gradient: number
  /** Sum of differences in how well pixels hang together with what is full in both, in thousands. */
  readonly connectivity: number
  /** Intersection over union at half coverage, of all pixels; 1 where both are empty. */
  readonly iou: number
  /** How many pixels were looked at. */
  readonly pixels: number
}

/** Sigma of the gradient's Gaussian, px; and how far it reaches. */
const SIGMA = 1.4,
  REACH = 4
/** Connectivity is told at so many levels of coverage; differences below this are none. */
const LEVELS = 10,
  THETA = 0.15

/** @param within a trimap: only where it is neither 0 nor 255 (intersection over union aside). All of the same size; throws RangeError otherwise. */
export function matteErrors(matte: Matte, truth: Matte, within?: Matte): MatteErrors {
  for (const other of [truth, within])
    if (other && (other.width !== matte.width || other.height !== matte.height))
      throw new RangeError(
        `Mattes are compared pixel by pixel: ${matte.width} × ${matte.height} px against ${other.width} × ${other.height} px.`,
      )
  const asked = (i: number) => !within || (within.data[i] !== 0 && within.data[i] !== 255)
  const a = mapInto(new Float32Array(matte.data.length), matte.data, (v) => v / 255),
    t = mapInto(new Float32Array(truth.data.length), truth.data, (v) => v / 255)
  const slopes = gradientLengths(a, matte.width, matte.height),
    trueSlopes = gradientLengths(t, matte.width, matte.height),
    [holds, trueHolds] = connectivity(a, t, matte.width, matte.height)
  let sad = 0,
    squares = 0,
    gradient = 0,
    connected = 0,
    pixels = 0
  for (let i = 0; i < a.length; i++) {
    if (!asked(i)) continue
    pixels++
    sad += Math.abs(a[i] - t[i])
    squares += (a[i] - t[i]) ** 2
    gradient += (slopes[i] - trueSlopes[i]) ** 2
    connected += Math.abs(holds[i] - trueHolds[i])
  }
  return {
    sad: sad / 1000,
    mse: pixels ? squares / pixels : 0,
    gradient: gradient / 1000,
    connectivity: connected / 1000,
    iou: overlap(matte, truth),
    pixels,
  }
}

/** Length of the gradient by first derivatives of a Gaussian (each of unit length as a filter); beyond the border the nearest pixel goes on. */
function gradientLengths(from: Float32Array, width: number, height: number): Float32Array {
  const gauss = Float64Array.from({ length: 2 * REACH + 1 }, (_, k) =>
      Math.exp(-((k - REACH) ** 2) / (2 * SIGMA ** 2)),
    ),
    slope = gauss.map((g, k) => -(k - REACH) * g)
  const length = Math.sqrt(gauss.reduce((s, v) => s + v * v, 0) * slope.reduce((s, v) => s + v * v, 0))
  const filtered = (across: Float64Array, down: Float64Array): Float32Array => {
    const rows = new Float32Array(from.length),
      out = new Float32Array(from.length)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let sum = 0
        for (let k = -REACH; k <= REACH; k++)
          sum += across[k + REACH] * from[y * width + Math.min(width - 1, Math.max(0, x + k))]
        rows[y * width + x] = sum
      }
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let sum = 0
        for (let k = -REACH; k <= REACH; k++)
          sum += down[k + REACH] * rows[Math.min(height - 1, Math.max(0, y + k)) * width + x]
        out[y * width + x] = sum / length
      }
    return out
  }
  const dx = filtered(slope, gauss),
    dy = filtered(gauss, slope)
  return dx.map((v, i) => Math.hypot(v, dy[i]))
}

/** Intersection over union at half coverage, 0-1; 1 where both are empty. */
export function overlap(a: Matte, b: Matte): number {
  let both = 0,
    either = 0
  for (let i = 0; i < a.data.length; i++) {
    const x = a.data[i] > 127,
      y = b.data[i] > 127
    if (x && y) both++
    if (x || y) either++
  }
  return either ? both / either : 1
}

/** For each pixel of both mattes how well it hangs together with the largest piece that is full in both, 0-1. */
function connectivity(a: Float32Array, t: Float32Array, width: number, height: number): [Float32Array, Float32Array] {
  const heldA = new Float32Array(a.length),
    heldT = new Float32Array(a.length)
  for (let level = 1; level <= LEVELS; level++) {
    const threshold = level / LEVELS - 1e-4,
      mask = mapInto(new Uint8Array(a.length), a, (v, i) => (v >= threshold && t[i] >= threshold ? 1 : 0))
    largestPiece(mask, width, height)
    for (let i = 0; i < a.length; i++) if (mask[i]) heldA[i] = heldT[i] = level / LEVELS
  }
  const hold = (from: Float32Array, held: Float32Array) =>
    from.map((v, i) => {
      const apart = v - held[i]
      return apart >= THETA ? 1 - apart : 1
    })
  return [hold(a, heldA), hold(t, heldT)]
}

/** Leaves only the largest piece (four neighbours) of a mask, in place. */
function largestPiece(mask: Uint8Array, width: number, height: number): void {
  const piece = new Int32Array(mask.length),
    stack: number[] = []
  let pieces = 0,
    best = 0,
    most = 0
  for (let start = 0; start < mask.length; start++) {
    if (!mask[start] || piece[start]) continue
    let size = 0
    piece[start] = ++pieces
    stack.push(start)
    while (stack.length) {
      const i = stack.pop()!,
        x = i % width
      size++
      const reach = (j: number) => {
        if (mask[j] && !piece[j]) {
          piece[j] = pieces
          stack.push(j)
        }
      }
      if (x > 0) reach(i - 1)
      if (x < width - 1) reach(i + 1)
      if (i >= width) reach(i - width)
      if (i < width * (height - 1)) reach(i + width)
    }
    if (size > most) {
      most = size
      best = pieces
    }
  }
  for (let i = 0; i < mask.length; i++) if (piece[i] !== best) mask[i] = 0
}
