// Exact-area fill of polygons, row by row. What it computes and its source: core/vector/fill.ts.

// An edge: x, y of its upper end, y of its lower end, slope (f64 each), direction, next edge that begins in the same row (i32 each).
const X: usize = 0,
  Y: usize = 8,
  END: usize = 16,
  SLOPE: usize = 24,
  DIRECTION: usize = 32,
  NEXT: usize = 36,
  EDGE: usize = 40

/**
 * Makes edges of closed outlines and chains them by the row they begin in. `points` are pairs of f64, `ends` the index after each
 * outline's last point. Returns the first row with an edge, or `height`.
 */
export function makeEdges(
  points: usize,
  ends: usize,
  outlines: u32,
  height: i32,
  edges: usize,
  firstOfRow: usize,
): i32 {
  memory.fill(firstOfRow, 0xff, (<usize>height) << 2)
  let top = height,
    start: u32 = 0,
    edge: i32 = 0
  for (let k: u32 = 0; k < outlines; k++) {
    const end = load<u32>(ends + (k << 2))
    for (let i = start; i < end; i++) {
      const a = points + ((<usize>i) << 4),
        b = points + ((<usize>(i + 1 < end ? i + 1 : start)) << 4)
      const x0 = load<f64>(a),
        y0 = load<f64>(a, 8),
        x1 = load<f64>(b),
        y1 = load<f64>(b, 8)
      if (y0 === y1 || max(y0, y1) <= 0 || min(y0, y1) >= height) continue
      const down = y0 < y1,
        at = edges + <usize>edge * EDGE
      store<f64>(at + X, down ? x0 : x1)
      store<f64>(at + Y, down ? y0 : y1)
      store<f64>(at + END, down ? y1 : y0)
      store<f64>(at + SLOPE, (x1 - x0) / (y1 - y0))
      store<i32>(at + DIRECTION, down ? 1 : -1)
      const row = max<i32>(0, <i32>floor(load<f64>(at + Y)))
      store<i32>(at + NEXT, load<i32>(firstOfRow + ((<usize>row) << 2)))
      store<i32>(firstOfRow + ((<usize>row) << 2), edge++)
      if (row < top) top = row
    }
    start = end
  }
  return top
}

/** Area and cover of each column of a row (two f64), and a bit for each column that is touched. */
let sums: usize = 0,
  touched: usize = 0

// @ts-ignore: decorator
@inline function put(column: i32, area: f64, cover: f64): void {
  const at = sums + ((<usize>column) << 4),
    word = touched + ((<usize>(column >> 6)) << 3)
  const bit = (1 as u64) << ((column & 63) as u64)
  store<u64>(word, load<u64>(word) | bit)
  store<f64>(at, load<f64>(at) + area)
  store<f64>(at, load<f64>(at, 8) + cover, 8)
}

/** What reaches into the canvas by less than this lies on its border: shares of its width would not be numbers. px. */
const NOTHING = 1e-12

/** An edge's piece inside a row: left of the canvas it counts as lying on its border, right of it it does not count. */
function addPiece(edge: usize, row: f64, width: i32): void {
  const edgeX = load<f64>(edge + X),
    edgeY = load<f64>(edge + Y),
    slope = load<f64>(edge + SLOPE),
    sign = <f64>load<i32>(edge + DIRECTION)
  const top = max(edgeY, row),
    bottom = min(load<f64>(edge + END), row + 1)
  if (bottom <= top) return
  let x0 = edgeX + (top - edgeY) * slope,
    x1 = edgeX + (bottom - edgeY) * slope
  const whole = bottom - top
  if (x0 > x1) {
    const swap = x0
    x0 = x1
    x1 = swap
  } // within one row only the share of the height for each column matters
  if (x0 >= width) return
  if (x1 <= NOTHING) {
    put(0, sign * whole, sign * whole)
    return
  }
  const first = floor(x0)
  if (x0 >= 0 && x1 <= first + 1) {
    put(<i32>first, sign * whole * (first + 1 - (x0 + x1) / 2), sign * whole)
    return
  }
  const perColumn = whole / (x1 - x0)
  if (x0 < 0) {
    const outside = -x0 * perColumn
    put(0, sign * outside, sign * outside)
    x0 = 0
  }
  const last = min(x1, <f64>width)
  for (let column = <i32>floor(x0); column < last; column++) {
    const from = max(x0, <f64>column),
      to = min(last, <f64>(column + 1)),
      piece = sign * (to - from) * perColumn
    put(column, piece * (column + 1 - (from + to) / 2), piece)
  }
}

// @ts-ignore: decorator
@inline function byteOf(signed: f64, evenOdd: bool, antialias: bool): i32 {
  let covered = abs(signed)
  if (evenOdd) {
    covered -= 2 * floor(covered / 2)
    if (covered > 1) covered = 2 - covered
  } else covered = min(covered, 1)
  return antialias ? <i32>(255 * covered + 0.5) : covered >= 0.5 ? 255 : 0
}

/**
 * Coverage of rows [from, to) into `out`, `stride` bytes a row, zeroed by the caller. Rows are taken in order, from the first on:
 * `active` holds the edges that reach into the next row, its first word how many. `room` is for (width + 1) · 16 bytes of sums and
 * (width / 64 + 1) · 8 of bits, all zero before the first row.
 */
export function fillRows(
  edges: usize,
  firstOfRow: usize,
  active: usize,
  room: usize,
  from: i32,
  to: i32,
  width: i32,
  out: usize,
  stride: usize,
  evenOdd: bool,
  antialias: bool,
): void {
  touched = room
  const bitWords = (width >> 6) + 1
  sums = room + ((<usize>bitWords) << 3)
  let count = load<i32>(active)
  const list = active + 4
  for (let row = from; row < to; row++) {
    for (
      let edge = load<i32>(firstOfRow + ((<usize>row) << 2));
      edge >= 0;
      edge = load<i32>(edges + <usize>edge * EDGE + NEXT)
    ) {
      store<i32>(list + ((<usize>count) << 2), edge)
      count++
    }
    let kept = 0
    for (let k = 0; k < count; k++) {
      const edge = load<i32>(list + ((<usize>k) << 2)),
        at = edges + <usize>edge * EDGE
      addPiece(at, <f64>row, width)
      if (load<f64>(at + END) > <f64>(row + 1)) {
        store<i32>(list + ((<usize>kept) << 2), edge)
        kept++
      }
    }
    count = kept
    const line = out + <usize>(row - from) * stride
    let winding: f64 = 0,
      next = 0,
      value: u8 = 0
    for (let w = 0; w < bitWords; w++) {
      let bits = load<u64>(touched + ((<usize>w) << 3))
      if (bits === 0) continue
      store<u64>(touched + ((<usize>w) << 3), 0)
      while (bits !== 0) {
        const column = (w << 6) + <i32>ctz(bits),
          at = sums + ((<usize>column) << 4)
        bits &= bits - 1
        if (value > 0 && column > next) memory.fill(line + next, value, column - next)
        if (column < width) store<u8>(line + column, <u8>byteOf(winding + load<f64>(at), evenOdd, antialias))
        winding += load<f64>(at, 8)
        store<f64>(at, 0)
        store<f64>(at, 0, 8)
        next = column + 1
        value = <u8>byteOf(winding, evenOdd, antialias)
      }
    }
    if (value > 0 && width > next) memory.fill(line + next, value, width - next)
  }
  store<i32>(active, count)
}
