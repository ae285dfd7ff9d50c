/** Rows of 16 bits a channel as premultiplied floats (0-1), and back. */

/** What 16 bits hold. */
const MOST = 65535

/** @param row RGBA of 16 bits, straight alpha @param out as many floats */
export function unpackDeepRow(row: Uint16Array, out: Float32Array): void {
  for (let i = 0; i < row.length; i += 4) {
    const alpha = row[i + 3] / MOST
    for (let c = 0; c < 3; c++) out[i + c] = (row[i + c] / MOST) * alpha
    out[i + 3] = alpha
  }
}

/** Rounded once. @param encoded what becomes of a value (0-1) before that */
export function packDeepRow(row: Float32Array, out: Uint16Array, encoded?: (value: number) => number): void {
  for (let i = 0; i < row.length; i += 4) {
    const alpha = Math.min(1, row[i + 3])
    if (!(MOST * alpha >= 0.5)) {
      out.fill(0, i, i + 4)
      continue
    }
    for (let c = 0; c < 3; c++) {
      const value = Math.min(1, Math.max(0, row[i + c] / row[i + 3]))
      out[i + c] = Math.round(MOST * (encoded ? encoded(value) : value))
    }
    out[i + 3] = Math.round(MOST * alpha)
  }
}
