/**
 * Exact Euclidean distance to a set of pixels, with the nearest pixel of the set, up to a limit.
 *
 * First each column's distance to its nearest set pixel, then along each row the lower envelope of the parabolas those make.
 * Sources: Felzenszwalb and Huttenlocher, "Distance transforms of sampled functions", Theory of Computing 8 (2012);
 * Meijster, Roerdink and Hesselink, "A general algorithm for computing distance transforms in linear time" (2000).
 */
import { type KernelStack, withRoom } from '../kernels'
import { type Size } from './picture'

/** Rows away that stand for: none is set in that column. */
const NOWHERE = 65535

/** For each pixel, how many rows it is to the nearest set one of its column, in the kernels as long as `stack` has them. @returns where the first row of them lies, and how many bytes on each further one */
function rowsAway(
  stack: KernelStack,
  isSet: Uint8Array,
  { width, height }: Size,
): { readonly rows: number; readonly stride: number } {
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
/** Valid until the kernels' memory grows. */
const awayIn = (stack: KernelStack, at: number, width: number): Uint16Array =>
  new Uint16Array(stack.run.memory.buffer, at, width)

/** 1 up to `reach` px from the set. Linear in the number of pixels, whatever the reach. @param isSet one byte a pixel, non-zero for the set @param near filled with it */
export function withinReach(
  isSet: Uint8Array,
  size: Size,
  reach: number,
  near = new Uint8Array(size.width * size.height),
): Uint8Array {
  withRoom((stack) => tellWithin(stack, isSet, size, reach, near))
  return near
}
function tellWithin(stack: KernelStack, isSet: Uint8Array, size: Size, reach: number, near: Uint8Array): void {
  const { width, height } = size,
    most = Math.min(Math.floor(reach), NOWHERE - 1)
  // How far to both sides reaches what lies so many rows away.
  const across = stack.take((most + 1) * 4),
    out = stack.take(width),
    { rows, stride } = rowsAway(stack, isSet, size)
  stack.words(across, most + 1).forEach((_, dy, table) => (table[dy] = Math.floor(Math.sqrt(reach * reach - dy * dy))))
  for (let y = 0; y < height; y++) {
    stack.run.withinRow(rows + y * stride, across, most, out, width)
    near.set(stack.bytes(out, width), y * width)
  }
}

/** How far it is from pixel number `i` to the set, px; infinite beyond `reach`. For few pixels: each looks along its row. @param isSet one byte a pixel, non-zero for the set @param away has room for what is looked up */
export function distanceTo(
  isSet: Uint8Array,
  size: Size,
  reach: number,
  away = new Uint16Array(size.width * size.height),
): (i: number) => number {
  const { width, height } = size
  withRoom((stack) => {
    const { rows, stride } = rowsAway(stack, isSet, size)
    for (let y = 0; y < height; y++) away.set(awayIn(stack, rows + y * stride, width), y * width)
  })
  return (i) => lookAlong(away, width, reach, i)
}
function lookAlong(away: Uint16Array, width: number, reach: number, i: number): number {
  const x = i % width
  let least = squareOf(away[i])
  for (let dx = 1; dx <= reach && dx * dx < least; dx++) {
    if (dx <= x) least = Math.min(least, squareOf(away[i - dx]) + dx * dx)
    if (x + dx < width) least = Math.min(least, squareOf(away[i + dx]) + dx * dx)
  }
  return least <= reach * reach ? Math.sqrt(least) : Infinity
}
const squareOf = (rows: number): number => (rows === NOWHERE ? Infinity : rows ** 2)

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
  withRoom((stack) => {
    const { rows, stride } = rowsAway(stack, isSet, size)
    visitRows(isSet, size, limit, (y) => awayIn(stack, rows + y * stride, size.width), visit)
  })
}

function visitRows(
  isSet: Uint8Array,
  { width, height }: Size,
  limit: number,
  rowsAwayIn: (y: number) => Uint16Array,
  visit: (y: number, nearest: Int32Array, from: number, to: number) => void,
): void {
  const reach = Math.min(Math.ceil(limit) + 1, NOWHERE - 1),
    limit2 = limit * limit
  const nearest = new Int32Array(width)
  const apex = new Int32Array(width),
    height2 = new Float64Array(width),
    from = new Float64Array(width + 1)
  for (let y = 0; y < height; y++) {
    const away = rowsAwayIn(y)
    let top = -1,
      leftmost = -1
    for (let x = 0; x < width; x++) {
      if (away[x] > reach) continue
      if (leftmost < 0) leftmost = x
      const f = away[x] * away[x]
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
    const first = Math.max(0, leftmost - reach),
      last = Math.min(width, apex[top] + reach + 1)
    for (let x = first, k = 0; x < last; x++) {
      while (from[k + 1] < x) k++
      const column = apex[k],
        dx = x - column,
        above = (y - away[column]) * width + column
      // Of two as near in one column the upper one.
      if (dx * dx + height2[k] > limit2) nearest[x] = -1
      else nearest[x] = above >= 0 && isSet[above] ? above : (y + away[column]) * width + column
    }
    visit(y, nearest, first, last)
  }
}
