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

interface Edge { x: number; y: number; endY: number; slope: number; direction: 1 | -1 }

/** @param outlines closed outlines in px; the last point joins the first. Coverage outside the canvas is dropped. */
export function fillPolygons(size: Size, outlines: readonly (readonly Point[])[], rule: FillRule, antialias = true): Matte {
  const matte = emptyMatte(size)
  const { width, height } = size
  const edges = edgesOf(outlines, height)
  const area = new Float64Array(width + 2), cover = new Float64Array(width + 2)
  let active: Edge[] = []
  let next = 0
  for (let y = edges.length ? Math.max(0, Math.floor(edges[0].y)) : height; y < height; y++) {
    while (next < edges.length && edges[next].y < y + 1) active.push(edges[next++])
    active = active.filter((edge) => edge.endY > y)
    if (!active.length) { if (next >= edges.length) break; continue }
    area.fill(0); cover.fill(0)
    for (const edge of active) addEdgeToRow(edge, y, width, area, cover)
    let winding = 0
    const row = y * width
    for (let x = 0; x < width; x++) {
      const signed = winding + area[x]
      winding += cover[x]
      const covered = rule === 'nonzero' ? Math.min(1, Math.abs(signed)) : triangle(signed)
      matte.data[row + x] = antialias ? 255 * covered + 0.5 : covered >= 0.5 ? 255 : 0
    }
  }
  return matte
}

/** Folds a winding sum to even-odd coverage: 0 → 0, 1 → 1, 2 → 0, straight lines between. */
function triangle(signed: number): number {
  const folded = Math.abs(signed) % 2
  return folded > 1 ? 2 - folded : folded
}

function edgesOf(outlines: readonly (readonly Point[])[], height: number): Edge[] {
  const edges: Edge[] = []
  for (const outline of outlines) {
    for (let i = 0; i < outline.length; i++) {
      const [x0, y0] = outline[i], [x1, y1] = outline[(i + 1) % outline.length]
      if (y0 === y1 || Math.max(y0, y1) <= 0 || Math.min(y0, y1) >= height) continue
      const slope = (x1 - x0) / (y1 - y0)
      edges.push(y0 < y1 ? { x: x0, y: y0, endY: y1, slope, direction: 1 } : { x: x1, y: y1, endY: y0, slope, direction: -1 })
    }
  }
  return edges.sort((a, b) => a.y - b.y)
}

/** Adds one edge's piece inside row `y`: pieces left of the canvas count as lying on its border, pieces right of it do not count. */
function addEdgeToRow(edge: Edge, y: number, width: number, area: Float64Array, cover: Float64Array): void {
  const top = Math.max(edge.y, y), bottom = Math.min(edge.endY, y + 1)
  if (bottom <= top) return
  let x0 = edge.x + (top - edge.y) * edge.slope, x1 = edge.x + (bottom - edge.y) * edge.slope
  const sign = edge.direction
  const whole = bottom - top
  if (x0 > x1) [x0, x1] = [x1, x0] // within one row only the share of the height per column matters
  if (x0 >= width) return
  if (x1 <= 0) { area[0] += sign * whole; cover[0] += sign * whole; return }
  const perColumn = x1 > x0 ? whole / (x1 - x0) : 0
  if (x0 < 0) { const outside = -x0 * perColumn; area[0] += sign * outside; cover[0] += sign * outside; x0 = 0 }
  if (x1 === x0) { const column = Math.floor(x0); area[column] += sign * whole * (column + 1 - x0); cover[column] += sign * whole; return }
  const last = Math.min(x1, width)
  for (let column = Math.floor(x0); column < last; column++) {
    const from = Math.max(x0, column), to = Math.min(last, column + 1)
    const piece = sign * (to - from) * perColumn
    area[column] += piece * (column + 1 - (from + to) / 2)
    cover[column] += piece
  }
}
