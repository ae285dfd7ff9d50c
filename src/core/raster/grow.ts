/**
 * Growing and shrinking a matte by an exact Euclidean distance, at a cost that does not depend on the distance.
 *
 * The edge is the 50 % contour. A crisp edge (one pixel wide) moves as a crisp edge: coverage is how far the moved edge lies past
 * the pixel's centre. A soft edge keeps its profile: the pixel takes the coverage found `by` px further in.
 * Distances to anti-aliased edges: Gustavson and Strand, "Anti-aliased Euclidean distance transform", Pattern Recognition
 * Letters 32 (2011): an edge pixel of coverage a lies a − ½ px inside its own edge.
 */
import { nearestSetPixels } from './distance'
import { invertInto } from './coverage'
import { type Matte } from './picture'

/** An edge pixel whose neighbours all differ by less than this (of 255) lies on a ramp: the edge is soft. */
const SOFT_STEP = 100
/** The distance pass reaches at most this far, in px. */
const FARTHEST = 32_000

/** @param by px; positive grows, negative shrinks. Returns a new matte of the same size. Throws RangeError when not finite. */
export function grow(matte: Matte, by: number): Matte {
  if (!Number.isFinite(by)) throw new RangeError(`Growing takes a distance in px, not ${by}.`)
  if (by === 0) return { ...matte, data: matte.data.slice() }
  if (by > 0) return dilate(matte, by)
  const inverse = { ...matte, data: matte.data.slice() }
  invertInto(inverse)
  const grown = dilate(inverse, -by)
  invertInto(grown)
  return grown
}

function dilate(matte: Matte, by: number): Matte {
  const { width, height, data } = matte
  const out = { width, height, data: data.slice() }
  if (hasSoftEdge(matte)) {
    moveSoftEdges(matte, by, out.data)
    return out
  }
  const crisp = out.data
  nearestSetPixels(rim(matte, true), matte, Math.min(by + 2, FARTHEST), (y, nearest, from, to) => {
    for (let x = from, i = y * width + from; x < to; x++, i++) {
      const seed = nearest[x]
      if (seed < 0 || crisp[i] === 255) continue
      const seedY = (seed / width) | 0,
        seedX = seed - seedY * width
      let best = 0
      // The anti-aliased pixels just outside the contour may reach further than the nearest one inside.
      for (let ny = Math.max(0, seedY - 1); ny <= Math.min(height - 1, seedY + 1); ny++) {
        for (let nx = Math.max(0, seedX - 1); nx <= Math.min(width - 1, seedX + 1); nx++) {
          const edge = data[ny * width + nx]
          if (edge === 0) continue
          const coverage = 255 * (by - Math.sqrt((x - nx) * (x - nx) + (y - ny) * (y - ny))) + edge
          if (coverage > best) best = coverage
        }
      }
      if (best > crisp[i]) crisp[i] = best < 254.5 ? best + 0.5 : 255
    }
  })
  return out
}

/** The pixels on one side of the 50 % contour that touch the other side (four neighbours): non-zero in the result. */
function rim({ width, height, data }: Matte, inner: boolean): Uint8Array {
  const out = new Uint8Array(data.length)
  const side = inner ? 1 : 0
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      if (data[i] >> 7 !== side) continue
      if (
        (x > 0 && data[i - 1] >> 7 !== side) ||
        (x < width - 1 && data[i + 1] >> 7 !== side) ||
        (y > 0 && data[i - width] >> 7 !== side) ||
        (y < height - 1 && data[i + width] >> 7 !== side)
      )
        out[i] = 1
    }
  }
  return out
}

/** Every pixel takes the coverage `by` px further in, along the line to the nearest pixel across the 50 % contour. */
function moveSoftEdges(matte: Matte, by: number, out: Uint8Array): void {
  const { width, data } = matte
  for (const inside of [0, 1]) {
    nearestSetPixels(rim(matte, inside === 0), matte, FARTHEST, (y, nearest, from, to) => {
      for (let x = from, i = y * width + from; x < to; x++, i++) {
        const seed = nearest[x]
        if (seed < 0 || data[i] >> 7 !== inside || out[i] === 255) continue
        const seedY = (seed / width) | 0,
          dx = x - (seed - seedY * width),
          dy = y - seedY
        const step = (inside ? -by : by) / Math.sqrt(dx * dx + dy * dy)
        const coverage = bilinear(matte, x - dx * step, y - dy * step) + 0.5
        if (coverage > out[i]) out[i] = coverage
      }
    })
  }
}

function hasSoftEdge({ width, height, data }: Matte): boolean {
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const v = data[i]
      if (v < 128 || v > 128 + SOFT_STEP) continue
      const left = x ? data[i - 1] : v,
        right = x < width - 1 ? data[i + 1] : v
      const above = y ? data[i - width] : v,
        below = y < height - 1 ? data[i + width] : v
      const onEdge = left < 128 || right < 128 || above < 128 || below < 128
      const greatest = Math.max(Math.abs(v - left), Math.abs(v - right), Math.abs(v - above), Math.abs(v - below))
      if (onEdge && greatest < SOFT_STEP) return true
    }
  }
  return false
}

/** Coverage between pixel centres (x, y in units of pixels from the first centre); the edge goes on outside. */
function bilinear({ width, height, data }: Matte, x: number, y: number): number {
  const cx = Math.min(Math.max(x, 0), width - 1),
    cy = Math.min(Math.max(y, 0), height - 1)
  const x0 = Math.floor(cx),
    y0 = Math.floor(cy),
    x1 = Math.min(x0 + 1, width - 1),
    y1 = Math.min(y0 + 1, height - 1)
  const fx = cx - x0,
    fy = cy - y0
  const top = data[y0 * width + x0] * (1 - fx) + data[y0 * width + x1] * fx
  const bottom = data[y1 * width + x0] * (1 - fx) + data[y1 * width + x1] * fx
  return top * (1 - fy) + bottom * fy
}
