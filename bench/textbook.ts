/**
 * The closed form as a textbook has it (Levin, Lischinski and Weiss 2008): every row of the Laplacian as a list, ε = 1e-5, on encoded
 * colours, conjugate gradients with the diagonal as preconditioner from nothing, to a residual of 1e-4. Only here to compare with.
 */
import { type Picture } from '@/core/raster/picture'

const EPSILON = 1e-5,
  SETTLED = 1e-4,
  MOST_ROUNDS = 2000

/** Coverage 0-1 where `unknown` is 1; `alpha` 0-1 elsewhere. Returns how many rounds it took. */
export function textbookClosedForm({ width, height, data }: Picture, unknown: Uint8Array, alpha: Float64Array): number {
  const nodeOf = new Int32Array(width * height).fill(-1),
    pixelOf: number[] = []
  for (let i = 0; i < unknown.length; i++)
    if (unknown[i]) {
      nodeOf[i] = pixelOf.length
      pixelOf.push(i)
    }
  const n = pixelOf.length,
    rows: Map<number, number>[] = Array.from({ length: n }, () => new Map()),
    right = new Float64Array(n)
  const window = new Int32Array(9),
    colour = new Float64Array(27)
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      let any = false
      for (let k = 0; k < 9; k++) {
        window[k] = (y + Math.floor(k / 3) - 1) * width + x + (k % 3) - 1
        any ||= nodeOf[window[k]] >= 0
      }
      if (!any) continue
      const mean = [0, 0, 0]
      for (let k = 0; k < 9; k++)
        for (let c = 0; c < 3; c++) {
          colour[3 * k + c] = data[4 * window[k] + c] / 255
          mean[c] += colour[3 * k + c] / 9
        }
      const s = [EPSILON / 9, 0, 0, EPSILON / 9, 0, EPSILON / 9]
      for (let k = 0; k < 27; k += 3) {
        const r = (colour[k] -= mean[0]),
          g = (colour[k + 1] -= mean[1]),
          b = (colour[k + 2] -= mean[2])
        s[0] += (r * r) / 9
        s[1] += (r * g) / 9
        s[2] += (r * b) / 9
        s[3] += (g * g) / 9
        s[4] += (g * b) / 9
        s[5] += (b * b) / 9
      }
      const a = s[3] * s[5] - s[4] * s[4],
        b = s[2] * s[4] - s[1] * s[5],
        c = s[1] * s[4] - s[2] * s[3],
        one = 1 / (s[0] * a + s[1] * b + s[2] * c)
      const i = [
        a * one,
        b * one,
        c * one,
        (s[0] * s[5] - s[2] * s[2]) * one,
        (s[2] * s[1] - s[0] * s[4]) * one,
        (s[0] * s[3] - s[1] * s[1]) * one,
      ]
      for (let k = 0; k < 9; k++) {
        const node = nodeOf[window[k]]
        if (node < 0) continue
        const r = colour[3 * k],
          g = colour[3 * k + 1],
          bl = colour[3 * k + 2],
          v = [i[0] * r + i[1] * g + i[2] * bl, i[1] * r + i[3] * g + i[4] * bl, i[2] * r + i[4] * g + i[5] * bl]
        for (let m = 0; m < 9; m++) {
          const value =
              (k === m ? 1 : 0) - (1 + v[0] * colour[3 * m] + v[1] * colour[3 * m + 1] + v[2] * colour[3 * m + 2]) / 9,
            other = nodeOf[window[m]]
          if (other >= 0) rows[node].set(other, (rows[node].get(other) ?? 0) + value)
          else right[node] -= value * alpha[window[m]]
        }
      }
    }
  // Compressed rows.
  const first = new Int32Array(n + 1),
    column: number[] = [],
    weight: number[] = [],
    diagonal = new Float64Array(n)
  rows.forEach((row, k) => {
    for (const [other, value] of row) {
      column.push(other)
      weight.push(value)
      if (other === k) diagonal[k] = value
    }
    first[k + 1] = column.length
  })
  const columns = Int32Array.from(column),
    weights = Float64Array.from(weight),
    x = new Float64Array(n),
    r = right.slice(),
    z = r.map((v, k) => v / diagonal[k]),
    p = z.slice(),
    q = new Float64Array(n)
  let rho = r.reduce((sum, v, k) => sum + v * z[k], 0),
    round = 0
  for (const start = rho; round < MOST_ROUNDS && rho > SETTLED ** 2 * start; round++) {
    let curvature = 0
    for (let k = 0; k < n; k++) {
      let sum = 0
      for (let e = first[k]; e < first[k + 1]; e++) sum += weights[e] * p[columns[e]]
      q[k] = sum
      curvature += sum * p[k]
    }
    const step = rho / curvature
    let next = 0
    for (let k = 0; k < n; k++) {
      x[k] += step * p[k]
      r[k] -= step * q[k]
      z[k] = r[k] / diagonal[k]
      next += r[k] * z[k]
    }
    for (let k = 0; k < n; k++) p[k] = z[k] + (next / rho) * p[k]
    rho = next
  }
  pixelOf.forEach((pixel, k) => {
    alpha[pixel] = Math.max(0, Math.min(1, x[k]))
  })
  return round
}
