/** 1 for the pixels that are one of those looked for, or within `reach` px of one (a square). */
export function nearAny(
  data: ArrayLike<number>,
  looked: (value: number) => boolean,
  width: number,
  height: number,
  reach: number,
): Uint8Array {
  const rows = new Uint8Array(width * height),
    out = new Uint8Array(width * height)
  for (let y = 0; y < height; y++) {
    let last = -Infinity
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (data[i] >= 0 && looked(data[i])) {
        for (let u = Math.max(last + 1, x - reach, 0); u < x; u++) rows[y * width + u] = 1
        last = x
      }
      if (x - last <= reach) rows[i] = 1
    }
  }
  const last = new Int32Array(width).fill(-reach - 1)
  for (let y = 0; y < height; y++)
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (rows[i]) last[x] = y
      if (y - last[x] <= reach) out[i] = 1
    }
  last.fill(height + reach)
  for (let y = height - 1; y >= 0; y--)
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (rows[i]) last[x] = y
      if (last[x] - y <= reach) out[i] = 1
    }
  return out
}
