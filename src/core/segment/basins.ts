/** The picture’s gradient, and the basins it floods into. */
import { type Size } from '../raster/picture'
import { type LabPlanes } from './labPlanes'

/** Gradients are put into so many classes of a quarter of a CIELAB unit; above that all are alike. */
const CLASSES = 256,
  CLASS = 0.25

/** Length of the colour gradient, CIELAB units a pixel. */
export const colourGradient = (lab: LabPlanes): Float32Array => gradientOf(lab, [lab.L, lab.a, lab.b])

/** Length of the gradient of all planes by Scharr's filter, in their units a pixel; beyond the border lies the outermost pixel again. */
export function gradientOf({ width, height }: Size, planes: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(width * height)
  for (const p of planes)
    for (let y = 0; y < height; y++) {
      const up = (y > 0 ? y - 1 : 0) * width,
        here = y * width,
        down = (y < height - 1 ? y + 1 : y) * width
      // Three columns at a time: the one before, this one, the next.
      let nw = p[up],
        w = p[here],
        sw = p[down],
        n = nw,
        c = w,
        s = sw
      for (let x = 0; x < width; x++) {
        const r = x < width - 1 ? x + 1 : x,
          ne = p[up + r],
          e = p[here + r],
          se = p[down + r]
        const gx = 3 * (ne - nw + se - sw) + 10 * (e - w),
          gy = 3 * (sw - nw + se - ne) + 10 * (s - n)
        out[here + x] += gx * gx + gy * gy
        nw = n
        w = c
        sw = s
        n = ne
        c = e
        s = se
      }
    }
  for (let i = 0; i < out.length; i++) out[i] = Math.sqrt(out[i]) / 32
  return out
}

/** Watershed basins of the gradient's minima, every pixel in one. */
export function floodBasins(
  gradient: Float32Array,
  width: number,
  height: number,
): { basinOf: Int32Array; basins: number } {
  const count = width * height,
    basinOf = new Int32Array(count).fill(-1)
  const classOf = new Uint8Array(count)
  for (let i = 0; i < count; i++) classOf[i] = Math.min(CLASSES - 1, gradient[i] / CLASS)
  const waiting: Waiting = {
      next: new Int32Array(count),
      first: new Int32Array(CLASSES).fill(-1),
      last: new Int32Array(CLASSES).fill(-1),
    },
    { next, first } = waiting
  // Minima: plateaus with nothing lower around them.
  let basins = 0
  const seen = new Uint8Array(count),
    plateau = new Int32Array(count)
  for (let start = 0; start < count; start++) {
    if (seen[start]) continue
    const level = classOf[start]
    let size = 0,
      least = true
    plateau[size++] = start
    seen[start] = 1
    for (let k = 0; k < size; k++) {
      const i = plateau[k],
        x = i % width
      for (let side = 0; side < 4; side++) {
        const j = besideAt(i, x, side, width, count)
        if (j < 0) continue
        if (classOf[j] < level) least = false
        else if (classOf[j] === level && !seen[j]) {
          seen[j] = 1
          plateau[size++] = j
        }
      }
    }
    if (!least) continue
    for (let k = 0; k < size; k++) {
      basinOf[plateau[k]] = basins
      put(waiting, plateau[k], level)
    }
    basins++
  }
  for (let level = 0; level < CLASSES; level++) {
    while (first[level] >= 0) {
      const i = first[level],
        x = i % width
      first[level] = next[i]
      for (let side = 0; side < 4; side++) {
        const j = besideAt(i, x, side, width, count)
        if (j < 0 || basinOf[j] >= 0) continue
        basinOf[j] = basinOf[i]
        put(waiting, j, Math.max(level, classOf[j]))
      }
    }
  }
  return { basinOf, basins }
}

/** Pixel i's neighbour: left, right, above, below; −1 beyond the border. @param x its column */
function besideAt(i: number, x: number, side: number, width: number, count: number): number {
  if (side === 0) return x > 0 ? i - 1 : -1
  if (side === 1) return x < width - 1 ? i + 1 : -1
  if (side === 2) return i - width
  return i + width < count ? i + width : -1
}

/** Queues of pixels, one for each class of gradients. */
interface Waiting {
  readonly next: Int32Array
  readonly first: Int32Array
  readonly last: Int32Array
}
function put({ next, first, last }: Waiting, i: number, c: number): void {
  next[i] = -1
  if (first[c] < 0) first[c] = i
  else next[last[c]] = i
  last[c] = i
}
