/**
 * Live wire: the cheapest way along the picture's edges. A way is cheap where the gradient is strong, where its second derivative
 * changes sign, and where it runs across the gradient's direction.
 * Sources: Mortensen and Barrett, "Interactive segmentation with intelligent scissors", Graphical Models and Image Processing 60 (1998)
 * (the three costs and their weights, shortest paths); Dial, Communications of the ACM 12 (1969) (the queue of buckets).
 */
import { type Box } from '../raster/content'
import { type Picture } from '../raster/picture'
import { type Point } from '../vector/fill'

/** Weights of zero crossing, direction and gradient: 0.43, 0.43, 0.14 in the paper; here of 100. */
const CROSSING = 34, DIRECTION = 32, GRADIENT = 34
/** A gradient of this many levels of luma a pixel is as strong as any. */
const STRONG = 60
const SQRT2 = Math.SQRT2

/** The costs of a part of the picture. */
export interface WireCosts extends Box {
  /** What a pixel costs by itself, 0 (on an edge) - 68. */
  readonly local: Uint8Array
  /** The edge's direction (across the gradient), unit vector times 127; zero where there is no gradient. */
  readonly alongX: Int8Array
  readonly alongY: Int8Array
  /** Gradient, levels a pixel. */
  readonly gradient: Float32Array
}

/** @param box whole px within the picture @param contrast 0-1: gradients below this share of the strongest are no edges */
export function wireCosts(picture: Picture, box: Box, contrast: number): WireCosts {
  const { x: left, y: top, width, height } = box, luma = new Float32Array((width + 4) * (height + 4)), stride = width + 4
  for (let v = 0; v < height + 4; v++) {
    const row = Math.min(picture.height - 1, Math.max(0, top + v - 2)) * picture.width
    for (let u = 0; u < stride; u++) {
      const i = (row + Math.min(picture.width - 1, Math.max(0, left + u - 2))) * 4
      luma[v * stride + u] = 0.2126 * picture.data[i] + 0.7152 * picture.data[i + 1] + 0.0722 * picture.data[i + 2] + 0.15 * Math.abs(picture.data[i] - picture.data[i + 2])
    }
  }
  const calm = blurred(luma, stride, height + 4)
  const count = width * height, local = new Uint8Array(count), alongX = new Int8Array(count), alongY = new Int8Array(count), gradient = new Float32Array(count), laplace = new Float32Array(count)
  for (let y = 0; y < height; y++) for (let x = 0, i = y * width, k = (y + 2) * stride + 2; x < width; x++, i++, k++) {
    const gx = (3 * (calm[k - stride + 1] - calm[k - stride - 1] + calm[k + stride + 1] - calm[k + stride - 1]) + 10 * (calm[k + 1] - calm[k - 1])) / 32
    const gy = (3 * (calm[k + stride - 1] - calm[k - stride - 1] + calm[k + stride + 1] - calm[k - stride + 1]) + 10 * (calm[k + stride] - calm[k - stride])) / 32
    const g = Math.sqrt(gx * gx + gy * gy)
    gradient[i] = g
    laplace[i] = calm[k - 1] + calm[k + 1] + calm[k - stride] + calm[k + stride] - 4 * calm[k]
    if (g > 0.5) { alongX[i] = (-127 * gy) / g; alongY[i] = (127 * gx) / g }
  }
  const least = contrast * STRONG
  for (let y = 0; y < height; y++) for (let x = 0, i = y * width; x < width; x++, i++) {
    const g = gradient[i]
    let cost = CROSSING + GRADIENT
    if (g >= least) {
      cost = GRADIENT * (1 - Math.min(1, g / STRONG))
      // The sign changes towards a neighbour, and here it is nearer to zero than there.
      const here = laplace[i], crosses = (j: number) => here * laplace[j] <= 0 && Math.abs(here) <= Math.abs(laplace[j])
      if (!((x > 0 && crosses(i - 1)) || (x + 1 < width && crosses(i + 1)) || (y > 0 && crosses(i - width)) || (y + 1 < height && crosses(i + width)))) cost += CROSSING
    }
    local[i] = cost
  }
  return { ...box, local, alongX, alongY, gradient }
}

/** Binomial 3×3: takes grain away and keeps edges in their place. */
function blurred(from: Float32Array, width: number, height: number): Float32Array {
  const rows = from.slice(), out = from.slice()
  for (let i = 1; i < from.length - 1; i++) rows[i] = (from[i - 1] + 2 * from[i] + from[i + 1]) / 4
  for (let i = width; i < width * (height - 1); i++) out[i] = (rows[i - width] + 2 * rows[i] + rows[i + width]) / 4
  return out
}

/** Where each pixel is reached from, towards the seed: 0-7 as STEPS, 8 at the seed, 255 where not reached. */
export interface WireTree { readonly costs: WireCosts; readonly from: Uint8Array }

const STEP_X = [1, 1, 0, -1, -1, -1, 0, 1], STEP_Y = [0, 1, 1, 1, 0, -1, -1, -1]
const SEED = 8, UNREACHED = 255, FAR = 0x7fffffff
/** What following the edge saves, for each unit of both directions along the step (127 times its length each). */
const PER_ALONG = DIRECTION / 254
/** What lies beyond the corridor, and how much dearer it is there. */
const BEYOND = 2, DEARER = 1.2
/** An edge may lead so far beyond the corridor, as a share of the way between the ends. */
const BULGE = 0.45
/** The queue has as many buckets as the dearest step costs, and some. */
const BUCKETS = 256

/** Shortest paths from a seed (px of the picture). @param within 1 where paths may go; everywhere when absent @param until stops when this pixel is reached */
export function wireTree(costs: WireCosts, seed: Point, within?: Uint8Array, until?: Point): WireTree {
  const { width, height, local, alongX, alongY } = costs, count = width * height
  const from = new Uint8Array(count).fill(UNREACHED), best = new Int32Array(count).fill(FAR), settled = new Uint8Array(count)
  // Buckets are rings of doubly linked pixels: one that gets nearer is moved at once.
  const next = new Int32Array(count), before = new Int32Array(count), first = new Int32Array(BUCKETS).fill(-1)
  const at = indexOf(costs, seed), goal = until ? indexOf(costs, until) : -1
  best[at] = 0
  from[at] = SEED
  first[0] = at
  next[at] = before[at] = -1
  let waiting = 1
  for (let distance = 0; waiting > 0; distance++) {
    const bucket = distance & (BUCKETS - 1)
    for (let i = first[bucket]; i >= 0; i = first[bucket]) {
      first[bucket] = next[i]
      if (next[i] >= 0) before[next[i]] = -1
      waiting--
      settled[i] = 1
      if (i === goal) return { costs, from }
      const y = (i / width) | 0, x = i - y * width, ax = alongX[i], ay = alongY[i]
      for (let step = 0; step < 8; step++) {
        const dx = STEP_X[step], dy = STEP_Y[step], u = x + dx, v = y + dy
        if (u < 0 || v < 0 || u >= width || v >= height) continue
        const j = i + dy * width + dx
        if (settled[j] || (within && !within[j])) continue
        // How well the step follows the edge at both ends.
        const here = dx * ax + dy * ay, there = dx * alongX[j] + dy * alongY[j], along = (here < 0 ? -here : here) + (there < 0 ? -there : there)
        let price = step & 1 ? SQRT2 * (local[j] + DIRECTION) - along * PER_ALONG : local[j] + DIRECTION - along * PER_ALONG
        if (within && within[j] === BEYOND) price *= DEARER
        const reached = distance + (price < 1.5 ? 1 : (price + 0.5) | 0), known = best[j]
        if (reached >= known) continue
        if (known !== FAR) {
          if (before[j] >= 0) next[before[j]] = next[j]; else first[known & (BUCKETS - 1)] = next[j]
          if (next[j] >= 0) before[next[j]] = before[j]
        } else waiting++
        best[j] = reached
        from[j] = (step + 4) & 7
        const to = reached & (BUCKETS - 1)
        next[j] = first[to]
        before[j] = -1
        if (first[to] >= 0) before[first[to]] = j
        first[to] = j
      }
    }
  }
  return { costs, from }
}

const indexOf = ({ x, y, width, height }: Box, [px, py]: Point): number =>
  Math.min(height - 1, Math.max(0, Math.floor(py) - y)) * width + Math.min(width - 1, Math.max(0, Math.floor(px) - x))

/** The way from the seed to a place, px of the picture at the middles of pixels, moved onto the gradient's crest by less than a pixel; straight where it is not reached. */
export function wirePath({ costs, from }: WireTree, seed: Point, to: Point): Point[] {
  const { x: left, y: top, width } = costs, out: Point[] = []
  let i = indexOf(costs, to)
  if (from[i] === UNREACHED) return [seed, to]
  for (; from[i] !== SEED; i += STEP_Y[from[i]] * width + STEP_X[from[i]]) out.push(onCrest(costs, i))
  out.push(onCrest(costs, i))
  return out.reverse().map(([x, y]) => [x + left, y + top])
}

/** A pixel's middle moved across the edge to where a parabola through the gradients has its top, at most half a pixel. */
function onCrest({ gradient, alongX, alongY, width, height }: WireCosts, i: number): [number, number] {
  const x = i % width, y = (i / width) | 0
  if (x === 0 || y === 0 || x === width - 1 || y === height - 1 || (alongX[i] === 0 && alongY[i] === 0)) return [x + 0.5, y + 0.5]
  const nx = -alongY[i] / 127, ny = alongX[i] / 127, sideways = Math.abs(nx) >= Math.abs(ny), step = sideways ? Math.sign(nx) : Math.sign(ny) * width
  const before = gradient[i - step], here = gradient[i], after = gradient[i + step], bend = before - 2 * here + after
  const shift = bend < -1e-3 ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend))) : 0
  return sideways ? [x + 0.5 + shift * Math.sign(nx), y + 0.5] : [x + 0.5, y + 0.5 + shift * Math.sign(ny)]
}

/**
 * The window of a piece of wire, within the picture, and in it 1 for what lies within `width` px of the straight line between the ends.
 * Edges that bulge further than that are followed too, at a price: what lies beyond is 2.
 */
export function corridor(picture: { readonly width: number; readonly height: number }, a: Point, b: Point, width: number, bulge = BULGE): { box: Box; within: Uint8Array } {
  const reach = width + bulge * Math.hypot(b[0] - a[0], b[1] - a[1])
  const x = Math.min(picture.width - 1, Math.max(0, Math.floor(Math.min(a[0], b[0]) - reach))), y = Math.min(picture.height - 1, Math.max(0, Math.floor(Math.min(a[1], b[1]) - reach)))
  const box = { x, y, width: Math.max(1, Math.min(picture.width, Math.ceil(Math.max(a[0], b[0]) + reach)) - x), height: Math.max(1, Math.min(picture.height, Math.ceil(Math.max(a[1], b[1]) + reach)) - y) }
  const within = new Uint8Array(box.width * box.height), dx = b[0] - a[0], dy = b[1] - a[1], length2 = dx * dx + dy * dy
  for (let v = 0; v < box.height; v++) for (let u = 0; u < box.width; u++) {
    const px = box.x + u + 0.5 - a[0], py = box.y + v + 0.5 - a[1], t = length2 > 0 ? Math.max(0, Math.min(1, (px * dx + py * dy) / length2)) : 0
    const away = Math.hypot(px - t * dx, py - t * dy)
    if (away <= reach) within[v * box.width + u] = away <= width + 1 ? 1 : BEYOND
  }
  return { box, within }
}

/** The wire between two anchors, px. */
export function wireBetween(picture: Picture, a: Point, b: Point, width: number, contrast: number, bulge = BULGE): Point[] {
  const { box, within } = corridor(picture, a, b, width, bulge)
  return wirePath(wireTree(wireCosts(picture, box, contrast), a, within, b), a, b)
}

/** At the level a moving pointer is followed on, the way between the ends is at most so many px, and edges may lead less far aside. */
const QUICK_LENGTH = 220, QUICK_BULGE = 0.15

/** The wire to a moving pointer, on the level where it is short. @param levels full size first, each half the one before */
export function quickWire(levels: readonly Picture[], a: Point, b: Point, width: number, contrast: number): Point[] {
  let level = 0
  while (level < levels.length - 1 && Math.hypot(b[0] - a[0], b[1] - a[1]) / 2 ** level > QUICK_LENGTH) level++
  const scale = 2 ** level, down = ([x, y]: Point): Point => [x / scale, y / scale]
  return wireBetween(levels[level], down(a), down(b), Math.max(4, width / scale), contrast, QUICK_BULGE).map(([x, y]) => [x * scale, y * scale])
}
