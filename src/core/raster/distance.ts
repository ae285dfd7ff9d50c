/**
 * Exact Euclidean distance to a set of pixels, with the nearest pixel of the set, up to a limit.
 *
 * First each column's distance to its nearest set pixel, then along each row the lower envelope of the parabolas those make.
 * Sources: Felzenszwalb and Huttenlocher, "Distance transforms of sampled functions", Theory of Computing 8 (2012);
 * Meijster, Roerdink and Hesselink, "A general algorithm for computing distance transforms in linear time" (2000).
 */
import { type KernelStack, withRoom } from '../kernels'
import { type Size } from './picture'

/** Row offset of the nearest set pixel in the same column; this where it is out of reach. */
const NONE = 32767

// A row at a time: the compiler makes more of short functions that are called often than of one long one.
function fromAbove(column: Int16Array, isSet: Uint8Array, row: number, width: number, reach: number): void {
  for (let i = row, end = row + width; i < end; i++) {
    const above = column[i - width]
    column[i] = isSet[i] ? 0 : above === NONE || above <= -reach ? NONE : above - 1 // negative: the set pixel lies above
  }
}
function fromBelow(column: Int16Array, row: number, width: number, reach: number): void {
  for (let i = row, end = row + width; i < end; i++) {
    const below = column[i + width],
      here = column[i]
    if (here === 0 || below < 0 || below >= reach) continue // nothing set below within reach
    if (here === NONE || below + 1 < -here) column[i] = below + 1
  }
}

/** For each pixel the row offset of the nearest set pixel in its column, or NONE. */
function columnsOf(isSet: Uint8Array, { width, height }: Size, reach: number): Int16Array {
  const column = new Int16Array(width * height)
  for (let i = 0; i < width; i++) column[i] = isSet[i] ? 0 : NONE
  for (let row = width; row < column.length; row += width) fromAbove(column, isSet, row, width, reach)
  for (let row = column.length - 2 * width; row >= 0; row -= width) fromBelow(column, row, width, reach)
  return column
}

/** Rows from each pixel to the nearest set one of its column lie at `rows` in the kernels, two bytes each; rows of pixels `stride` bytes apart. */
function layRowsAway(stack: KernelStack, isSet: Uint8Array, { width, height }: Size): { rows: number; stride: number } {
  const across = (width + 7) & ~7,
    stride = across * 2,
    set = stack.take(across + 8),
    none = stack.take(stride),
    rows = stack.take(stride * height)
  stack.bytes(none, stride).fill(255)
  for (let y = 0; y < height; y++) {
    stack.bytes(set, width).set(isSet.subarray(y * width, (y + 1) * width))
    stack.run.rowsSince(set, y ? rows + (y - 1) * stride : none, rows + y * stride, width)
  }
  for (let y = height - 2; y >= 0; y--) stack.run.rowsUntil(rows + (y + 1) * stride, rows + y * stride, width)
  return { rows, stride }
}
/** Rows away that stand for: none is set in that column. */
const NOWHERE = 65535

/** 1 up to `reach` px from the set. Linear in the number of pixels, whatever the reach. @param isSet one byte a pixel, non-zero for the set */
export function withinReach(isSet: Uint8Array, size: Size, reach: number): Uint8Array {
  const { width, height } = size,
    most = Math.min(Math.floor(reach), NONE - 1),
    near = new Uint8Array(width * height)
  return withRoom((stack) => {
    // How far to both sides reaches what lies so many rows away.
    const across = stack.take((most + 1) * 4),
      out = stack.take(width),
      { rows, stride } = layRowsAway(stack, isSet, size)
    stack
      .words(across, most + 1)
      .forEach((_, dy, table) => (table[dy] = Math.floor(Math.sqrt(reach * reach - dy * dy))))
    for (let y = 0; y < height; y++) {
      stack.run.withinRow(rows + y * stride, across, most, out, width)
      near.set(stack.bytes(out, width), y * width)
    }
    return near
  })
}

/** How far it is from pixel number `i` to the set, px; infinite beyond `reach`. For few pixels: each looks along its row. @param isSet one byte a pixel, non-zero for the set */
export function distanceTo(isSet: Uint8Array, size: Size, reach: number): (i: number) => number {
  const { width, height } = size,
    away = new Uint16Array(width * height)
  withRoom((stack) => {
    const { rows, stride } = layRowsAway(stack, isSet, size),
      memory = stack.run.memory.buffer
    for (let y = 0; y < height; y++) away.set(new Uint16Array(memory, rows + y * stride, width), y * width)
  })
  const square = (i: number) => (away[i] === NOWHERE ? Infinity : away[i] ** 2)
  return (i) => {
    const x = i % width
    let least = square(i)
    for (let dx = 1; dx <= reach && dx * dx < least; dx++) {
      if (dx <= x) least = Math.min(least, square(i - dx) + dx * dx)
      if (x + dx < width) least = Math.min(least, square(i + dx) + dx * dx)
    }
    return least <= reach * reach ? Math.sqrt(least) : Infinity
  }
}

/**
 * Rows of nearest set pixels. `visit(y, nearest, from, to)` gets, for each row from the top that comes near the set, the index of the nearest set
 * pixel for each pixel of the row, or −1 where none lies within `limit` px; before `from` and from `to` on none does. Linear in the number of pixels, whatever the limit.
 * @param isSet one byte a pixel, non-zero for the set
 */
export function nearestSetPixels(
  isSet: Uint8Array,
  size: Size,
  limit: number,
  visit: (y: number, nearest: Int32Array, from: number, to: number) => void,
): void {
  const { width, height } = size,
    reach = Math.min(Math.ceil(limit) + 1, NONE),
    column = columnsOf(isSet, size, reach)
  const nearest = new Int32Array(width)
  const apex = new Int32Array(width),
    height2 = new Float64Array(width),
    from = new Float64Array(width + 1)
  for (let y = 0; y < height; y++) {
    const row = y * width
    let top = -1,
      leftmost = -1
    for (let x = 0; x < width; x++) {
      const offset = column[row + x]
      if (offset === NONE) continue
      if (leftmost < 0) leftmost = x
      const f = offset * offset
      let start = -Infinity
      while (top >= 0) {
        start = (f + x * x - height2[top] - apex[top] * apex[top]) / (2 * (x - apex[top]))
        if (start > from[top]) break
        top--
      }
      top++
      apex[top] = x
      height2[top] = f
      from[top] = top === 0 ? -Infinity : start
    }
    if (top < 0) continue
    from[top + 1] = Infinity
    const limit2 = limit * limit,
      first = Math.max(0, leftmost - reach),
      last = Math.min(width, apex[top] + reach + 1)
    for (let x = first, k = 0; x < last; x++) {
      while (from[k + 1] < x) k++
      const dx = x - apex[k]
      nearest[x] = dx * dx + height2[k] <= limit2 ? (y + column[row + apex[k]]) * width + apex[k] : -1
    }
    visit(y, nearest, first, last)
  }
}
