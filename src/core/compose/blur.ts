/**
 * Blurs of what lies below, at a cost that hardly depends on the radius: a wide blur looks at a coarser mip level, is done there with a few taps, and is
 * brought back by the cubic B-spline. The variances of the three add up (the mean of k × k pixels has (k² − 1)/12, the spline k²/3), so the middle one
 * gets what is left. Source: as core/raster/gaussian.ts. The disc is summed by rows of running sums. Source: Crow, "Summed-Area Tables for Texture Mapping", SIGGRAPH 1984.
 */
import { gaussianKernel } from '../raster/gaussian'
import { type Size } from '../raster/picture'
import { type Fetch, fetched, takeFetched } from './fetch'
import { type Region } from './region'
import { PIXEL_BYTES, type Room } from './room'

/** A coarser level is looked at as long as the blur there keeps this standard deviation, or radius, px. */
export const LEAST_SIGMA = 2
const LEAST_RADIUS = 12
/** Beyond this a blur of the coarsest level shows no difference. */
const WIDEST = 48
const SPLINE_VARIANCE = 1 / 3

/** How many levels coarser, at most so that the canvas still has a pixel. */
export function coarserLevel(here: number, least: number, region: Region, canvas: Size): number {
  const room = Math.ceil(Math.log2(Math.max(canvas.width, canvas.height))) - region.level
  return Math.max(0, Math.min(room, Math.floor(Math.log2(here / least))))
}

/** The cells of the coarser level that the spline needs for the region. */
function cellsFor({ level, x, y, width, height }: Region, extra: number): Region {
  if (extra === 0) return { level, x, y, width, height }
  const k = 2 ** extra,
    first = (at: number) => Math.floor((at + 0.5) / k - 0.5) - 1,
    last = (at: number) => Math.floor((at - 0.5) / k - 0.5) + 2
  return {
    level: level + extra,
    x: first(x),
    y: first(y),
    width: last(x + width) - first(x) + 1,
    height: last(y + height) - first(y) + 1,
  }
}

const widened = (region: Region, by: number, down = by): Region => ({
  level: region.level,
  x: region.x - by,
  y: region.y - down,
  width: region.width + 2 * by,
  height: region.height + 2 * down,
})

/** @param fetch of what is blurred @param sigma canvas px. Returns premultiplied pixels of the region, for as long as the node is drawn. */
export function blurGaussian(room: Room, fetch: Fetch, region: Region, sigma: number, canvas: Size): Float32Array {
  const here = sigma / 2 ** region.level
  if (here < 0.1) return fetched(room, fetch, region)
  const { stack } = room
  const extra = coarserLevel(here, LEAST_SIGMA, region, canvas),
    k = 2 ** extra
  const rest = extra === 0 ? here : Math.sqrt((here * here) / (k * k) - (1 - 1 / (k * k)) / 12 - SPLINE_VARIANCE)
  const kernel = gaussianKernel(Math.min(WIDEST, rest)),
    radius = kernel.length - 1
  const cells = cellsFor(region, extra),
    wide = widened(cells, radius)
  const from = takeFetched(stack, fetch, wide),
    start = stack.take(kernel.byteLength),
    across = stack.take(cells.width * wide.height * PIXEL_BYTES),
    done = stack.take(cells.width * cells.height * PIXEL_BYTES)
  stack.floats(start, kernel.length).set(kernel)
  const stride = cells.width * PIXEL_BYTES
  for (let y = 0; y < wide.height; y++)
    stack.run.weighRow(
      from + y * wide.width * PIXEL_BYTES,
      across + y * stride,
      cells.width,
      radius,
      PIXEL_BYTES,
      start,
    )
  for (let y = 0; y < cells.height; y++)
    stack.run.weighRow(across + y * stride, done + y * stride, cells.width, radius, stride, start)
  const out = bringBack(room, done, cells, region, k)
  stack.release(from)
  return out
}

/** As blurGaussian, with an even disc. @param radius canvas px */
export function blurDisc(room: Room, fetch: Fetch, region: Region, radius: number, canvas: Size): Float32Array {
  const here = radius / 2 ** region.level
  if (here < 0.5) return fetched(room, fetch, region)
  const { stack } = room
  const extra = coarserLevel(here, LEAST_RADIUS, region, canvas),
    k = 2 ** extra
  const size = Math.min(WIDEST, here / k),
    reach = Math.ceil(size + 0.5),
    rows = 2 * reach + 1
  const { reaches, parts, area } = discRows(size, reach)
  const cells = cellsFor(region, extra),
    wide = widened(cells, reach + 1, reach)
  const from = takeFetched(stack, fetch, wide),
    start = stack.take(rows * 4),
    shares = stack.take(rows * 4)
  const sumBytes = (wide.width + 1) * PIXEL_BYTES
  const sums = stack.take(wide.height * sumBytes),
    done = stack.take(cells.width * cells.height * PIXEL_BYTES)
  new Int32Array(stack.bytes(start, rows * 4).buffer, start, rows).set(reaches)
  stack.floats(shares, rows).set(parts)
  for (let y = 0; y < wide.height; y++)
    stack.run.sumRow(from + y * wide.width * PIXEL_BYTES, sums + y * sumBytes, wide.width)
  for (let y = 0; y < cells.height; y++)
    stack.run.discRow(
      sums + y * sumBytes,
      sumBytes,
      done + y * cells.width * PIXEL_BYTES,
      cells.width,
      reach,
      start,
      shares,
      1 / area,
    )
  const out = bringBack(room, done, cells, region, k)
  stack.release(from)
  return out
}

/** How far each row of a disc reaches: whole pixels either side of its middle, and the share of the next ones. */
function discRows(radius: number, reach: number): { reaches: Int32Array; parts: Float32Array; area: number } {
  const SLICES = 8
  const reaches = new Int32Array(2 * reach + 1),
    parts = new Float32Array(2 * reach + 1)
  let area = 0
  for (let row = 0; row <= 2 * reach; row++) {
    let half = 0
    for (let n = 0; n < SLICES; n++) {
      const y = row - reach - 0.5 + (n + 0.5) / SLICES
      half += Math.sqrt(Math.max(0, radius * radius - y * y)) / SLICES
    }
    if (half < 0.25) {
      reaches[row] = -1
      continue
    }
    reaches[row] = Math.max(0, Math.floor(half - 0.5))
    parts[row] = half - 0.5 - reaches[row]
    area += 2 * half
  }
  return { reaches, parts, area }
}

/** From cells of a coarser level to the region's pixels. */
function bringBack(
  { stack, scratch }: Room,
  cells: number,
  { x: cellX, y: cellY, width: cellWidth }: Region,
  region: Region,
  k: number,
): Float32Array {
  const { width, height } = region
  const out = scratch.floats(width * height * 4)
  if (k === 1) {
    out.set(stack.floats(cells, out.length))
    return out
  }
  const columns = stack.take(width * 4),
    weights = stack.take(width * 16),
    own = stack.take(16),
    row = stack.take(width * PIXEL_BYTES)
  const place = (at: number) => (at + 0.5) / k - 0.5
  const whole = new Int32Array(stack.bytes(columns, width * 4).buffer, columns, width),
    shares = stack.floats(weights, width * 4)
  for (let x = 0; x < width; x++) {
    const u = place(region.x + x),
      cell = Math.floor(u)
    whole[x] = cell - 1 - cellX
    spline(u - cell, shares, x * 4)
  }
  for (let y = 0; y < height; y++) {
    const v = place(region.y + y),
      cell = Math.floor(v)
    spline(v - cell, stack.floats(own, 4), 0)
    stack.run.splineRow(
      cells + (cell - 1 - cellY) * cellWidth * PIXEL_BYTES,
      cellWidth * PIXEL_BYTES,
      row,
      width,
      columns,
      weights,
      own,
    )
    out.set(stack.floats(row, width * 4), y * width * 4)
  }
  return out
}

function spline(t: number, into: Float32Array, at: number): void {
  const s = 1 - t
  into[at] = (s * s * s) / 6
  into[at + 1] = (4 - 6 * t * t + 3 * t * t * t) / 6
  into[at + 2] = (4 - 6 * s * s + 3 * s * s * s) / 6
  into[at + 3] = (t * t * t) / 6
}
