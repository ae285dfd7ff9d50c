/**
 * The darkest there is round about, over all channels, for effects that ask what is nowhere lighter than this: a minimum over a square, evened out over
 * the same square. Looked at on a coarser level, where a few cells say all that is asked. Source of its use: He, Sun and Tang, CVPR 2009 (dark channel).
 */
import { type Size } from '../raster/picture'
import { type KernelStack } from '../kernels'
import { coarserLevel } from './blur'
import { type Fetch, takeFetched } from './fetch'
import { type Region } from './region'

/** A coarser level is looked at as long as the square keeps this reach there, px. */
const LEAST_REACH = 6
/** What covers less than this of a cell is not looked at. */
const COVERS = 0.5
/** Stands for what is not there. */
const LIGHT = 8

/** The values of row `y` of a region (counted within it), one a pixel, valid until the next. */
export type LeastRow = (y: number) => Float32Array

/** @param reach half the square, canvas px @param per what each channel is multiplied by before they are compared */
export function leastAround(
  stack: KernelStack,
  fetch: Fetch,
  region: Region,
  reach: number,
  canvas: Size,
  per: readonly number[],
): LeastRow {
  const here = Math.max(1, reach / 2 ** region.level),
    extra = coarserLevel(here, LEAST_REACH, region, canvas),
    k = 2 ** extra,
    size = Math.max(1, Math.round(here / k)),
    place = (at: number) => (at + 0.5) / k - 0.5,
    // The cells to go between, and twice the square around them: once for the minimum, once for the mean.
    x = Math.floor(place(region.x)) - 2 * size,
    y = Math.floor(place(region.y)) - 2 * size,
    width = Math.floor(place(region.x + region.width - 1)) + 2 + 2 * size - x,
    height = Math.floor(place(region.y + region.height - 1)) + 2 + 2 * size - y,
    at = takeFetched(stack, fetch, { level: region.level + extra, x, y, width, height }),
    pixels = stack.floats(at, width * height * 4)
  let cells: Float32Array = new Float32Array(width * height)
  for (let i = 0, j = 0; i < cells.length; i++, j += 4) {
    const a = pixels[j + 3]
    cells[i] = a < COVERS ? LIGHT : Math.min(per[0] * pixels[j], per[1] * pixels[j + 1], per[2] * pixels[j + 2]) / a
  }
  stack.release(at)
  for (const work of [minimum, mean]) {
    cells = alongLines(cells, width, 1, height, width, (line, out) => work(line, out, size))
    cells = alongLines(cells, height, width, width, 1, (line, out) => work(line, out, size))
  }
  const between = new Float32Array(width),
    out = new Float32Array(region.width),
    left = new Int32Array(region.width),
    part = new Float32Array(region.width)
  for (let i = 0; i < region.width; i++) {
    const at = place(region.x + i)
    left[i] = Math.floor(at) - x
    part[i] = at - Math.floor(at)
  }
  return (row) => {
    const at = place(region.y + row),
      upper = (Math.floor(at) - y) * width,
      down = at - Math.floor(at)
    for (let i = 0; i < width; i++) between[i] = cells[upper + i] + down * (cells[upper + width + i] - cells[upper + i])
    for (let i = 0; i < out.length; i++) {
      const a = between[left[i]]
      out[i] = a + part[i] * (between[left[i] + 1] - a)
    }
    return out
  }
}

/** The least within `size` to either side, LIGHT at most: of stretches twice as long at each step, then of the two that cover what is looked at (common practice). */
export function minimum(line: Float32Array, out: Float32Array, size: number): void {
  const whole = 2 * size + 1,
    least = new Float32Array(line.length + 2 * size).fill(LIGHT)
  for (let i = 0; i < line.length; i++) if (line[i] < LIGHT) least[size + i] = line[i]
  let stretch = 1
  for (; 2 * stretch <= whole; stretch *= 2)
    for (let i = 0; i + stretch < least.length; i++) if (least[i + stretch] < least[i]) least[i] = least[i + stretch]
  for (let i = 0; i < line.length; i++) out[i] = Math.min(least[i], least[i + whole - stretch])
}
function mean(line: Float32Array, out: Float32Array, size: number): void {
  let sum = 0,
    count = 0
  for (let j = 0; j < Math.min(line.length, size); j++, count++) sum += line[j]
  for (let i = 0; i < line.length; i++) {
    if (i + size < line.length) {
      sum += line[i + size]
      count++
    }
    if (i > size) {
      sum -= line[i - size - 1]
      count--
    }
    out[i] = sum / count
  }
}

/** Each row (stride 1) or column (next 1) by itself. */
function alongLines(
  from: Float32Array,
  along: number,
  stride: number,
  lines: number,
  next: number,
  work: (line: Float32Array, out: Float32Array) => void,
): Float32Array {
  const to = new Float32Array(from.length),
    line = new Float32Array(along),
    out = new Float32Array(along)
  for (let n = 0; n < lines; n++) {
    for (let i = 0, at = n * next; i < along; i++, at += stride) line[i] = from[at]
    work(line, out)
    for (let i = 0, at = n * next; i < along; i++, at += stride) to[at] = out[i]
  }
  return to
}
