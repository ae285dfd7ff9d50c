import { fromLinear } from '../colour/srgb'

/** What 16 bits hold. */
const MOST = 65535

/** Premultiplied floats of one row to RGBA of 16 bits, straight alpha, rounded once. @param linear they are linear light, and become sRGB values */
export function packDeepRow(row: Float32Array, out: Uint16Array, linear: boolean): void {
  for (let i = 0; i < row.length; i += 4) {
    const alpha = Math.min(1, row[i + 3])
    if (!(alpha > 0)) {
      out.fill(0, i, i + 4)
      continue
    }
    for (let c = 0; c < 3; c++) {
      const value = Math.min(1, Math.max(0, row[i + c] / row[i + 3]))
      out[i + c] = Math.round(MOST * (linear ? fromLinear(value) : value))
    }
    out[i + 3] = Math.round(MOST * alpha)
  }
}
