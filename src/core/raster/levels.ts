/**
 * Mip levels: level n is the picture at 1 / 2^n, each pixel the mean of the (up to) 2×2 pixels below it, so pixel (i, j) of
 * level n covers [i·2^n, (i+1)·2^n) × [j·2^n, (j+1)·2^n) of the full picture. Sizes round up. Colour is averaged weighted by alpha.
 * Source: Williams, "Pyramidal Parametrics", SIGGRAPH 1983.
 */
import { type KernelStack, SLICE_BYTES, withRoom } from '../kernels'
import { type Matte, type Picture, type Size } from './picture'

export type Allocate = (bytes: number) => ArrayBufferLike
const plain: Allocate = (bytes) => new ArrayBuffer(bytes)

export const halfSize = ({ width, height }: Size): Size => ({
  width: Math.max(1, (width + 1) >> 1),
  height: Math.max(1, (height + 1) >> 1),
})

/** How many levels a raster has until its longer side fits into one 256-px tile. */
export function levelCount({ width, height }: Size): number {
  let count = 1
  for (let side = Math.max(width, height); side > 256; side = (side + 1) >> 1) count++
  return count
}

export function halvePicture(source: Picture, allocate: Allocate = plain, opaque = false): Picture {
  const { width, height } = halfSize(source)
  const data = new Uint8ClampedArray(allocate(width * height * 4), 0, width * height * 4) // what is allocated may be larger
  const from = new Uint32Array(source.data.buffer, source.data.byteOffset, source.width * source.height)
  const to = new Uint32Array(data.buffer, data.byteOffset, width * height)
  withRoom((stack) => halveRows(stack, from, source, to, { width, height }, opaque))
  return { width, height, data }
}

function halveRows(
  stack: KernelStack,
  from: Uint32Array,
  source: Size,
  to: Uint32Array,
  { width, height }: Size,
  opaque: boolean,
): void {
  const whole = source.width >> 1,
    length = whole * 2,
    topAt = stack.take(length * 4),
    bottomAt = stack.take(length * 4),
    halfAt = stack.take(whole * 4)
  const [rowTop, rowBottom, half] = [
    [topAt, length],
    [bottomAt, length],
    [halfAt, whole],
  ].map(([at, count]) => new Uint32Array(stack.run.memory.buffer, at, count))
  for (let y = 0; y < height; y++) {
    const top = 2 * y * source.width,
      bottom = Math.min(2 * y + 1, source.height - 1) * source.width
    rowTop.set(from.subarray(top, top + length))
    rowBottom.set(from.subarray(bottom, bottom + length))
    const done = stack.run.halveRow(topAt, bottomAt, halfAt, whole)
    to.set(half.subarray(0, done), y * width)
    for (let x = done; x < width; x++) {
      const left = 2 * x,
        right = left + 1 < source.width ? left + 1 : left
      const p = from[top + left],
        q = from[top + right],
        r = from[bottom + left],
        s = from[bottom + right]
      to[y * width + x] = opaque ? meanOpaque(p, q, r, s) : meanWeighted(p, q, r, s)
    }
  }
}

/** Mean of four words, two channels at a time (the sums fit 10 bits, so they cannot run into each other). */
function meanOpaque(p: number, q: number, r: number, s: number): number {
  const even = (p & 0xff00ff) + (q & 0xff00ff) + (r & 0xff00ff) + (s & 0xff00ff) + 0x20002
  const green = ((p >>> 8) & 0xff) + ((q >>> 8) & 0xff) + ((r >>> 8) & 0xff) + ((s >>> 8) & 0xff) + 2
  return (((even >>> 2) & 0xff00ff) | ((green << 6) & 0xff00) | 0xff000000) >>> 0
}

function meanWeighted(p: number, q: number, r: number, s: number): number {
  const a = p >>> 24,
    b = q >>> 24,
    c = r >>> 24,
    d = s >>> 24
  const sum = a + b + c + d
  if (sum === 1020) return meanOpaque(p, q, r, s)
  if (sum === 0) return 0
  const red = ((p & 255) * a + (q & 255) * b + (r & 255) * c + (s & 255) * d) / sum
  const green = (((p >>> 8) & 255) * a + ((q >>> 8) & 255) * b + ((r >>> 8) & 255) * c + ((s >>> 8) & 255) * d) / sum
  const blue = (((p >>> 16) & 255) * a + ((q >>> 16) & 255) * b + ((r >>> 16) & 255) * c + ((s >>> 16) & 255) * d) / sum
  return ((red + 0.5) | 0 | (((green + 0.5) | 0) << 8) | (((blue + 0.5) | 0) << 16) | (((sum + 2) >> 2) << 24)) >>> 0
}

/** Writes half-size coverage into `into` (made here when absent), rounding to nearest. */
export function halveMatte(source: Matte, into?: Matte, allocate: Allocate = plain): Matte {
  const { width, height } = halfSize(source),
    target = into ?? { width, height, data: new Uint8Array(allocate(width * height), 0, width * height) },
    rows = Math.min(source.height, 2 * Math.ceil(SLICE_BYTES / (2 * source.width)))
  withRoom((stack) => {
    const room = rows * source.width,
      from = stack.take(room),
      to = stack.take(Math.ceil(rows / 2) * width),
      sources = stack.bytes(from, room),
      halves = stack.bytes(to, Math.ceil(rows / 2) * width)
    for (let y = 0; y < source.height; y += rows) {
      const now = Math.min(rows, source.height - y),
        half = (now + 1) >> 1
      sources.set(source.data.subarray(y * source.width, (y + now) * source.width))
      stack.run.halveCoverage(from, source.width, now, to)
      target.data.set(halves.subarray(0, half * width), (y >> 1) * width)
    }
  })
  return target
}

export function picturePyramid(full: Picture, opaque: boolean, allocate: Allocate = plain): Picture[] {
  const levels = [full]
  for (let n = levelCount(full); n > 1; n--) levels.push(halvePicture(levels[levels.length - 1], allocate, opaque))
  return levels
}

export function mattePyramid(full: Matte, allocate: Allocate = plain): Matte[] {
  const levels = [full]
  for (let n = levelCount(full); n > 1; n--) levels.push(halveMatte(levels[levels.length - 1], undefined, allocate))
  return levels
}
