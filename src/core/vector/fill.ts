/**
 * Exact-area anti-aliased fill of closed polygons: every pixel gets the area of the polygon inside it.
 *
 * For each row the edges leave two sums per pixel, how much of the pixel's height they cross and how much area lies to their
 * right; summing from the left gives the signed area. Source: Duff,
 * "Polygon scan conversion by exact convolution", Raster Imaging and Digital Typography (1989).
 */
import { emptyMatte, type Matte, type Size } from '../raster/picture'

export type Point = readonly [x: number, y: number]
export type FillRule = 'nonzero' | 'evenodd'

/** @param outlines closed outlines in px; the last point joins the first. Coverage outside the canvas is dropped. */
export function fillPolygons(size: Size, outlines: readonly (readonly Point[])[], rule: FillRule, antialias = true): Matte {
  const matte = emptyMatte(size)
  const { width, height, data } = matte
  const { x, y, endY, slope, direction, firstOfRow, next, top } = edgesOf(outlines, height)
  const cells = new Cells(width)
  let active: Int32Array = new Int32Array(64), count = 0
  for (let row = top; row < height; row++) {
    for (let edge = firstOfRow[row]; edge >= 0; edge = next[edge]) {
      if (count === active.length) { const larger = new Int32Array(count * 2); larger.set(active); active = larger }
      active[count++] = edge
    }
    let kept = 0
    for (let k = 0; k < count; k++) {
      const edge = active[k]
      cells.add(x[edge], y[edge], endY[edge], slope[edge], direction[edge], row)
      if (endY[edge] > row + 1) active[kept++] = edge
    }
    count = kept
    cells.sweep(data, row * width, rule, antialias)
  }
  return matte
}

/** Folds a winding sum to even-odd coverage: 0 → 0, 1 → 1, 2 → 0, straight lines between. */
function triangle(signed: number): number {
  const folded = Math.abs(signed) % 2
  return folded > 1 ? 2 - folded : folded
}

/** Edges in columns, upper end first, chained by the row they begin in. */
interface Edges { x: Float64Array; y: Float64Array; endY: Float64Array; slope: Float64Array; direction: Int8Array; firstOfRow: Int32Array; next: Int32Array; top: number }

function edgesOf(outlines: readonly (readonly Point[])[], height: number): Edges {
  const most = outlines.reduce((sum, outline) => sum + outline.length, 0)
  const edges: Edges = { x: new Float64Array(most), y: new Float64Array(most), endY: new Float64Array(most), slope: new Float64Array(most), direction: new Int8Array(most), firstOfRow: new Int32Array(height).fill(-1), next: new Int32Array(most), top: height }
  let count = 0
  for (const outline of outlines) {
    for (let i = 0; i < outline.length; i++) {
      const [x0, y0] = outline[i], [x1, y1] = outline[i + 1 < outline.length ? i + 1 : 0]
      if (y0 === y1 || Math.max(y0, y1) <= 0 || Math.min(y0, y1) >= height) continue
      const down = y0 < y1
      edges.x[count] = down ? x0 : x1
      edges.y[count] = down ? y0 : y1
      edges.endY[count] = down ? y1 : y0
      edges.slope[count] = (x1 - x0) / (y1 - y0)
      edges.direction[count] = down ? 1 : -1
      const row = Math.max(0, Math.floor(edges.y[count]))
      edges.next[count] = edges.firstOfRow[row]
      edges.firstOfRow[row] = count++
      if (row < edges.top) edges.top = row
    }
  }
  return edges
}

/** One row's sums, only where an edge touches it. */
class Cells {
  private readonly area: Float64Array
  private readonly cover: Float64Array
  private readonly used: Uint8Array
  private columns: Int32Array
  private count = 0

  constructor(private readonly width: number) {
    this.area = new Float64Array(width + 1)
    this.cover = new Float64Array(width + 1)
    this.used = new Uint8Array(width + 1)
    this.columns = new Int32Array(width + 1)
  }

  private put(column: number, area: number, cover: number): void {
    if (this.used[column] === 0) { this.used[column] = 1; this.columns[this.count++] = column }
    this.area[column] += area
    this.cover[column] += cover
  }

  /** Adds one edge's piece inside a row: pieces left of the canvas count as lying on its border, pieces right of it do not count. */
  add(edgeX: number, edgeY: number, endY: number, slope: number, sign: number, row: number): void {
    const { width } = this
    const top = edgeY > row ? edgeY : row, bottom = endY < row + 1 ? endY : row + 1
    if (bottom <= top) return
    let x0 = edgeX + (top - edgeY) * slope, x1 = edgeX + (bottom - edgeY) * slope
    const whole = bottom - top
    if (x0 > x1) { const swap = x0; x0 = x1; x1 = swap } // within one row only the share of the height per column matters
    if (x0 >= width) return
    if (x1 <= 0) { this.put(0, sign * whole, sign * whole); return }
    const first = Math.floor(x0)
    if (x0 >= 0 && x1 <= first + 1) { this.put(first, sign * whole * (first + 1 - (x0 + x1) / 2), sign * whole); return }
    const perColumn = whole / (x1 - x0)
    if (x0 < 0) { const outside = -x0 * perColumn; this.put(0, sign * outside, sign * outside); x0 = 0 }
    const last = x1 < width ? x1 : width
    for (let column = Math.floor(x0); column < last; column++) {
      const from = x0 > column ? x0 : column, to = last < column + 1 ? last : column + 1
      const piece = sign * (to - from) * perColumn
      this.put(column, piece * (column + 1 - (from + to) / 2), piece)
    }
  }

  /** Writes the row's coverage, whole stretches between touched columns at once, and forgets it. */
  sweep(data: Uint8Array, start: number, rule: FillRule, antialias: boolean): void {
    const { count, columns, area, cover, used, width } = this
    if (count === 0) return
    const order = columns
    if (count > FEW) columns.subarray(0, count).sort(); else sortFew(columns, count)
    let winding = 0
    for (let k = 0; k < count; k++) {
      const column = order[k]
      if (column < width) data[start + column] = byteOf(winding + area[column], rule, antialias)
      winding += cover[column]
      area[column] = cover[column] = used[column] = 0
      const end = k + 1 < count ? order[k + 1] : width
      if (end > column + 1) {
        const value = byteOf(winding, rule, antialias)
        if (value > 0) data.fill(value, start + column + 1, start + end)
      }
    }
    this.count = 0
  }
}

/** Up to so many columns of a row are put in order one by one: a general sort takes longer to start. */
const FEW = 48
function sortFew(list: Int32Array, count: number): void {
  for (let k = 1; k < count; k++) {
    const value = list[k]
    let at = k
    for (; at > 0 && list[at - 1] > value; at--) list[at] = list[at - 1]
    list[at] = value
  }
}

function byteOf(signed: number, rule: FillRule, antialias: boolean): number {
  const covered = rule === 'nonzero' ? Math.min(1, Math.abs(signed)) : triangle(signed)
  return antialias ? (255 * covered + 0.5) | 0 : covered >= 0.5 ? 255 : 0
}
