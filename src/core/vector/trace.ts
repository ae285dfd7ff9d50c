/**
 * A matte's 50 % contours as closed outlines, to a fraction of a pixel: the boundary between inside and outside pixels is walked
 * along their sides, and each side crossed gives a point between the two pixels' middles where coverage passes one half (linear
 * interpolation). Source: Lorensen and Cline, "Marching cubes", SIGGRAPH 1987, in two dimensions; pixels that only touch at a
 * corner are apart.
 */
import { type Matte } from '../raster/picture'

/** x, y pairs, px; the last joins the first. The inside lies to the right, so holes run the other way round. */
export type Contour = Float64Array

/** Outside the matte nothing is covered. */
const HALF = 127.5

/** Steps along the side of an inside pixel, clockwise: the side's outward direction, then the way walked. 0 up, 1 right, 2 down, 3 left. */
const OUT_X = [0, 1, 0, -1],
  OUT_Y = [-1, 0, 1, 0]

/** All contours, in the order of their uppermost points. @param check is called now and then with the progress (0-1) @param values what lies between pixels is interpolated from, where not from coverage; on the same side of one half */
export function traceMatte(
  matte: Matte,
  check: (progress: number) => void = () => {},
  values: Uint8Array | Float32Array = matte.data,
): Contour[] {
  const { width, height } = matte
  // One bit for each pixel whose upper side has been walked.
  const walked = new Uint32Array((width * height + 31) >>> 5)
  const contours: Contour[] = []
  for (let y = 0; y < height; y++) {
    if (y % 256 === 0) check(y / height)
    startsInRow(matte, y, (i) => {
      if (!(walked[i >>> 5] & (1 << (i & 31)))) contours.push(walk(matte, i, walked, values))
    })
  }
  return contours
}

/** Finds the pixels of a row that are inside below an outside one, four at a time where the memory is aligned. */
function startsInRow({ width, data }: Matte, y: number, found: (i: number) => void): void {
  const row = y * width
  const one = (x: number) => {
    const i = row + x
    if (data[i] > HALF && (y === 0 || data[i - width] < HALF)) found(i)
  }
  const first = (data.byteOffset + row) & 3
  let x = 0
  for (const end = Math.min(width, (4 - first) & 3); x < end; x++) one(x)
  if (y > 0 && width - x >= 4) {
    const words = new Uint32Array(data.buffer, data.byteOffset + row + x, (width - x) >> 2)
    const above = data.byteOffset + row + x - width,
      shift = (above & 3) * 8
    const upper = new Uint32Array(
      data.buffer,
      above & ~3,
      Math.min(words.length + 1, (data.buffer.byteLength - (above & ~3)) >> 2),
    )
    scanWords(words, upper, shift, x, one)
    x += words.length * 4
  }
  for (; x < width; x++) one(x)
}

function scanWords(words: Uint32Array, upper: Uint32Array, shift: number, x: number, one: (x: number) => void): void {
  for (let k = 0; k < words.length; k++) {
    const word = words[k] & 0x80808080
    if (word === 0) continue
    const over = shift === 0 ? upper[k] : (upper[k] >>> shift) | (upper[k + 1] << (32 - shift))
    if ((word & ~over) !== 0) for (let n = 4 * k; n < 4 * k + 4; n++) one(x + n)
  }
}

/** Walks once around from the upper side of pixel `start`. */
function walk(
  { width, height, data }: Matte,
  start: number,
  walked: Uint32Array,
  values: Uint8Array | Float32Array,
): Contour {
  let points = new Float64Array(64),
    count = 0
  let x = start % width,
    y = (start - x) / width,
    side = 0
  const inside = (px: number, py: number) =>
    px >= 0 && py >= 0 && px < width && py < height && data[py * width + px] > HALF
  do {
    const i = y * width + x
    if (side === 0) walked[i >>> 5] |= 1 << (i & 31)
    const ox = x + OUT_X[side],
      oy = y + OUT_Y[side]
    const here = values[i],
      there = ox >= 0 && oy >= 0 && ox < width && oy < height ? values[oy * width + ox] : 0
    const t = (here - HALF) / (here - there)
    if (count + 2 > points.length) {
      const larger = new Float64Array(points.length * 2)
      larger.set(points)
      points = larger
    }
    points[count++] = x + 0.5 + t * OUT_X[side]
    points[count++] = y + 0.5 + t * OUT_Y[side]
    // Onward along the side: to the next pixel's same side, or round a corner.
    const ahead = (side + 1) & 3,
      ax = x + OUT_X[ahead],
      ay = y + OUT_Y[ahead]
    if (!inside(ax, ay)) side = ahead
    else if (inside(ax + OUT_X[side], ay + OUT_Y[side])) {
      x = ax + OUT_X[side]
      y = ay + OUT_Y[side]
      side = (side + 3) & 3
    } else {
      x = ax
      y = ay
    }
  } while (side !== 0 || y * width + x !== start)
  return points.slice(0, count)
}

/** The area inside, px²; holes are negative. */
export function areaOf(points: Contour): number {
  let twice = 0
  for (let i = 0, j = points.length - 2; i < points.length; j = i, i += 2)
    twice += points[j] * points[i + 1] - points[i] * points[j + 1]
  return twice / 2
}
