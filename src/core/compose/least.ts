/**
 * The darkest there is round about, channel by channel, for effects that ask what is nowhere lighter than this: a minimum over a square, evened out over
 * the same square. Looked at on a coarser level, where a few cells say all that is asked. Source of its use: He, Sun and Tang, CVPR 2009 (dark channel).
 */
import { type KernelStack } from '../kernels'
import { type Size } from '../raster/picture'
import { bringBack, cellsFor, coarserLevel } from './blur'
import { type Region } from './region'

/** A coarser level is looked at as long as the square keeps this reach there, px. */
const LEAST_REACH = 6
/** What covers less than this of a cell is not looked at. */
const COVERS = 0.5
/** Stands for what is not there. */
const LIGHT = 8

/** @param fetch premultiplied pixels of any region @param reach half the square, canvas px. Returns 4 floats a pixel of the region, straight; the fourth is 1. */
export function leastAround(
  stack: KernelStack,
  fetch: (region: Region) => Float32Array,
  region: Region,
  reach: number,
  canvas: Size,
): Float32Array {
  const here = Math.max(1, reach / 2 ** region.level),
    extra = coarserLevel(here, LEAST_REACH, region, canvas),
    k = 2 ** extra,
    size = Math.max(1, Math.round(here / k)),
    cells = cellsFor(region, extra),
    wide: Region = {
      level: cells.level,
      x: cells.x - 2 * size,
      y: cells.y - 2 * size,
      width: cells.width + 4 * size,
      height: cells.height + 4 * size,
    },
    values = fetch(wide)
  for (let i = 0; i < values.length; i += 4) {
    const a = values[i + 3]
    for (let c = 0; c < 3; c++) values[i + c] = a < COVERS ? LIGHT : values[i + c] / a
    values[i + 3] = 1
  }
  const least = (along: number, stride: number, lines: number, from: Float32Array) =>
    alongLines(from, along, stride, lines, (line, out) => {
      for (let i = 0; i < along; i++) {
        let low = LIGHT
        for (let j = Math.max(0, i - size); j <= Math.min(along - 1, i + size); j++) low = Math.min(low, line[j])
        out[i] = low
      }
    })
  const mean = (along: number, stride: number, lines: number, from: Float32Array) =>
    alongLines(from, along, stride, lines, (line, out) => {
      let sum = 0,
        count = 0
      for (let j = 0; j < Math.min(along, size); j++, count++) sum += line[j]
      for (let i = 0; i < along; i++) {
        if (i + size < along) {
          sum += line[i + size]
          count++
        }
        if (i > size) {
          sum -= line[i - size - 1]
          count--
        }
        out[i] = sum / count
      }
    })
  const { width, height } = wide
  let made = least(width, 4, height, values)
  made = least(height, 4 * width, width, made)
  made = mean(width, 4, height, made)
  made = mean(height, 4 * width, width, made)
  const done = stack.take(cells.width * cells.height * 16)
  for (let y = 0; y < cells.height; y++) {
    const row = ((y + 2 * size) * width + 2 * size) * 4
    stack.floats(done + y * cells.width * 16, cells.width * 4).set(made.subarray(row, row + cells.width * 4))
  }
  const out = bringBack(stack, done, cells, region, k)
  stack.release(done)
  return out
}

/** Each channel of each row (stride 4) or column by itself. */
function alongLines(
  from: Float32Array,
  along: number,
  stride: number,
  lines: number,
  work: (line: Float32Array, out: Float32Array) => void,
): Float32Array {
  const to = new Float32Array(from.length).fill(1),
    line = new Float32Array(along),
    out = new Float32Array(along),
    next = stride === 4 ? 4 * along : 4
  for (let n = 0; n < lines; n++)
    for (let c = 0; c < 3; c++) {
      for (let i = 0, at = n * next + c; i < along; i++, at += stride) line[i] = from[at]
      work(line, out)
      for (let i = 0, at = n * next + c; i < along; i++, at += stride) to[at] = out[i]
    }
  return to
}
