/**
 * Exact-area anti-aliased fill of closed polygons: every pixel gets the area of the polygon inside it.
 *
 * For each row the edges leave two sums per pixel, how much of the pixel's height they cross and how much area lies to their
 * right; summing from the left gives the signed area. Source: Duff,
 * "Polygon scan conversion by exact convolution", Raster Imaging and Digital Typography (1989).
 */
import { KERNEL_BASE, kernels } from '../kernels'
import { emptyMatte, type Matte, type Size } from '../raster/picture'

export type Point = readonly [x: number, y: number]
export type FillRule = 'nonzero' | 'evenodd'

const EDGE_BYTES = 40,
  POINT_BYTES = 16
/** Rows are made in strips of about this many bytes, which stay in the processor's cache. */
const STRIP_BYTES = 1 << 19
const aligned = (bytes: number): number => (bytes + 15) & ~15

/** @param outlines closed outlines in px; the last point joins the first. Coverage outside the canvas is dropped. @param matte where to, empty; made here when absent */
export function fillPolygons(
  size: Size,
  outlines: readonly (readonly Point[])[],
  rule: FillRule,
  antialias = true,
  matte = emptyMatte(size),
): Matte {
  const { width, height, data } = matte
  const most = outlines.reduce((sum, outline) => sum + outline.length, 0)
  const rows = Math.max(1, Math.floor(STRIP_BYTES / width)),
    roomBytes = ((width >> 6) + 1) * 8 + (width + 1) * 16
  const edges = KERNEL_BASE,
    firstOfRow = edges + aligned(most * EDGE_BYTES),
    active = firstOfRow + aligned(height * 4),
    room = active + aligned(4 + most * 4),
    out = room + aligned(roomBytes)
  const ends = out + aligned(Math.max(rows * width, 0)),
    points = ends + aligned(outlines.length * 4)
  const { bytes, makeEdges, fillRows } = kernels(points + most * POINT_BYTES)
  const place = new Float64Array(bytes.buffer, points, most * 2),
    endOf = new Uint32Array(bytes.buffer, ends, outlines.length)
  let left = width,
    right = 0,
    bottom = 0,
    i = 0
  outlines.forEach((outline, k) => {
    for (const point of outline) {
      const x = point[0],
        y = point[1]
      place[i++] = x
      place[i++] = y
      if (x < left) left = x
      if (x > right) right = x
      if (y > bottom) bottom = y
    }
    endOf[k] = i / 2
  })
  left = Math.max(0, Math.floor(left))
  right = Math.min(width, Math.ceil(right))
  bottom = Math.min(height, Math.ceil(bottom))
  if (right <= left) return matte
  bytes.fill(0, active, active + 4)
  bytes.fill(0, room, room + roomBytes)
  const top = makeEdges(points, ends, outlines.length, height, edges, firstOfRow)
  for (let row = top; row < bottom; row += rows) {
    const end = Math.min(bottom, row + rows)
    bytes.fill(0, out, out + (end - row) * width)
    fillRows(edges, firstOfRow, active, room, row, end, width, out, width, rule === 'evenodd', antialias)
    for (let y = row, from = out + left; y < end; y++, from += width)
      data.set(bytes.subarray(from, from + right - left), y * width + left)
  }
  return matte
}
