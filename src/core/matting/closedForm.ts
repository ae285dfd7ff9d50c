/**
 * A matte from the picture and the places where it is known: within every 3×3 window coverage is an affine function of colour.
 * Source: Levin, Lischinski and Weiss, "A closed-form solution to natural image matting", IEEE PAMI 30 (2008), equation 12; solved by
 * conjugate gradients with the diagonal as preconditioner.
 */
import { type Picture } from '../raster/picture'

/** How much the affine functions are held back, colours 0-1 squared. */
const EPSILON = 1e-6
const REACH = 2, SIDE = 2 * REACH + 1, SLOTS = SIDE * SIDE
const MOST_ROUNDS = 400
/** The residual that is left, beside the first one. */
const SETTLED = 1e-4

/**
 * Solves the pixels of `unknown` (1) from all others, in place. `alpha` (0-255) holds what is known, and a first guess of what is not.
 * Memory: 220 bytes for each unknown pixel. @param check is called now and then with the progress (0-1)
 */
export function solveClosedForm(picture: Picture, unknown: Uint8Array, alpha: Uint8Array, check: (progress: number) => void = () => {}): void {
  const { width, height } = picture, nodeOf = new Int32Array(width * height).fill(-1)
  let nodes = 0
  for (let i = 0; i < unknown.length; i++) if (unknown[i]) nodeOf[i] = nodes++
  if (nodes === 0) return
  const { weights, right, diagonal } = laplacian(picture, nodeOf, nodes, alpha)
  check(0.1)
  // The neighbours' numbers, slot by slot.
  const neighbours = new Int32Array(nodes * SLOTS).fill(-1)
  for (let y = 0, i = 0; y < height; y++) for (let x = 0; x < width; x++, i++) {
    const node = nodeOf[i]
    if (node < 0) continue
    for (let dy = -REACH, slot = node * SLOTS; dy <= REACH; dy++) for (let dx = -REACH; dx <= REACH; dx++, slot++) {
      if (x + dx >= 0 && x + dx < width && y + dy >= 0 && y + dy < height) neighbours[slot] = nodeOf[i + dy * width + dx]
    }
  }
  const x = new Float64Array(nodes), r = new Float64Array(nodes), p = new Float64Array(nodes), q = new Float64Array(nodes)
  for (let i = 0; i < alpha.length; i++) if (nodeOf[i] >= 0) x[nodeOf[i]] = alpha[i] / 255
  const multiply = (v: Float64Array, out: Float64Array) => {
    for (let n = 0; n < nodes; n++) {
      let sum = 0
      for (let slot = n * SLOTS, end = slot + SLOTS; slot < end; slot++) { const m = neighbours[slot]; if (m >= 0) sum += weights[slot] * v[m] }
      out[n] = sum
    }
  }
  multiply(x, q)
  let rho = 0
  for (let n = 0; n < nodes; n++) { r[n] = right[n] - q[n]; p[n] = r[n] / diagonal[n]; rho += r[n] * p[n] }
  const first = rho
  for (let round = 0; round < MOST_ROUNDS && rho > SETTLED ** 2 * first && rho > 1e-14; round++) {
    if (round % 8 === 0) check(0.1 + (0.9 * round) / MOST_ROUNDS)
    multiply(p, q)
    let pq = 0
    for (let n = 0; n < nodes; n++) pq += p[n] * q[n]
    if (pq <= 0) break
    const step = rho / pq
    let next = 0
    for (let n = 0; n < nodes; n++) { x[n] += step * p[n]; r[n] -= step * q[n]; next += (r[n] * r[n]) / diagonal[n] }
    const keep = next / rho
    for (let n = 0; n < nodes; n++) p[n] = r[n] / diagonal[n] + keep * p[n]
    rho = next
  }
  for (let i = 0; i < alpha.length; i++) if (nodeOf[i] >= 0) alpha[i] = 255 * Math.max(0, Math.min(1, x[nodeOf[i]])) + 0.5
}

/** The matting Laplacian's rows of the unknown pixels, in 25 slots around each; what falls on known pixels goes to the right side. */
function laplacian({ width, height, data }: Picture, nodeOf: Int32Array, nodes: number, alpha: Uint8Array): { weights: Float32Array; right: Float64Array; diagonal: Float64Array } {
  const weights = new Float32Array(nodes * SLOTS), right = new Float64Array(nodes), diagonal = new Float64Array(nodes).fill(1e-9)
  const window = new Int32Array(9), colour = new Float64Array(27)
  for (let y = 1; y < height - 1; y++) for (let x = 1; x < width - 1; x++) {
    let any = false
    for (let k = 0; k < 9; k++) { const i = (y + ((k / 3) | 0) - 1) * width + x + (k % 3) - 1; window[k] = i; any ||= nodeOf[i] >= 0 }
    if (!any) continue
    let mr = 0, mg = 0, mb = 0
    for (let k = 0; k < 9; k++) { const o = window[k] * 4; mr += colour[k * 3] = data[o] / 255; mg += colour[k * 3 + 1] = data[o + 1] / 255; mb += colour[k * 3 + 2] = data[o + 2] / 255 }
    mr /= 9; mg /= 9; mb /= 9
    let rr = EPSILON / 9, rg = 0, rb = 0, gg = EPSILON / 9, gb = 0, bb = EPSILON / 9
    for (let k = 0; k < 27; k += 3) {
      const r = (colour[k] -= mr), g = (colour[k + 1] -= mg), b = (colour[k + 2] -= mb)
      rr += (r * r) / 9; rg += (r * g) / 9; rb += (r * b) / 9; gg += (g * g) / 9; gb += (g * b) / 9; bb += (b * b) / 9
    }
    const a = gg * bb - gb * gb, b = rb * gb - rg * bb, c = rg * gb - rb * gg, one = 1 / (rr * a + rg * b + rb * c)
    const irr = a * one, irg = b * one, irb = c * one, igg = (rr * bb - rb * rb) * one, igb = (rg * rb - rr * gb) * one, ibb = (rr * gg - rg * rg) * one
    for (let k = 0; k < 9; k++) {
      const node = nodeOf[window[k]]
      if (node < 0) continue
      const r = colour[k * 3], g = colour[k * 3 + 1], bl = colour[k * 3 + 2], vr = irr * r + irg * g + irb * bl, vg = irg * r + igg * g + igb * bl, vb = irb * r + igb * g + ibb * bl
      const kx = k % 3, ky = (k / 3) | 0
      for (let m = 0; m < 9; m++) {
        const value = (k === m ? 1 : 0) - (1 + vr * colour[m * 3] + vg * colour[m * 3 + 1] + vb * colour[m * 3 + 2]) / 9
        if (k === m) diagonal[node] += value
        if (nodeOf[window[m]] >= 0) weights[node * SLOTS + (((m / 3) | 0) - ky + REACH) * SIDE + (m % 3) - kx + REACH] += value
        else right[node] -= (value * alpha[window[m]]) / 255
      }
    }
  }
  return { weights, right, diagonal }
}
