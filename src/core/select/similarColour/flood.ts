import { type Size } from '../../raster/picture'

/**
 * Scanline flood: the pixels joined to (x, y) through left, right, upper and lower neighbours whose distance is at most `tolerance`.
 * Returns 255 for those, 0 elsewhere. Source: Heckbert, "A Seed Fill Algorithm", Graphics Gems (1990).
 */
export function flood(distance: Uint8Array, { width, height }: Size, x: number, y: number, tolerance: number): Uint8Array {
  const out = new Uint8Array(distance.length)
  if (distance[y * width + x] > tolerance) return out
  // Spans still to look at: row, first and last column of the parent span, direction. Flat, to spare an object for each.
  let stack = new Int32Array(4096)
  let depth = 0
  const push = (row: number, from: number, to: number, direction: number) => {
    if (row < 0 || row >= height) return
    if (depth + 4 > stack.length) { const larger = new Int32Array(stack.length * 2); larger.set(stack); stack = larger }
    stack[depth] = row; stack[depth + 1] = from; stack[depth + 2] = to; stack[depth + 3] = direction
    depth += 4
  }
  push(y, x, x, 1)
  push(y - 1, x, x, -1)
  while (depth) {
    depth -= 4
    const row = stack[depth], from = stack[depth + 1], to = stack[depth + 2], direction = stack[depth + 3]
    const start = row * width
    let column = from
    // Leftwards from the parent's first column, then span after span up to its last.
    while (column >= 0 && out[start + column] === 0 && distance[start + column] <= tolerance) out[start + column--] = 255
    let left = column + 1
    let open = left <= from
    if (open) {
      if (left < from) push(row - direction, left, from - 1, -direction)
      column = from + 1
    } else column = from
    for (;;) {
      if (open) {
        while (column < width && out[start + column] === 0 && distance[start + column] <= tolerance) out[start + column++] = 255
        push(row + direction, left, column - 1, direction)
        if (column > to + 1) push(row - direction, to + 1, column - 1, -direction)
      }
      for (column++; column <= to && (out[start + column] !== 0 || distance[start + column] > tolerance); column++);
      if (column > to) break
      left = column
      open = true
    }
  }
  return out
}
