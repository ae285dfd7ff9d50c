/**
 * Live wire: the cheapest way along the picture's edges. A way is cheap where the gradient is strong, where it has its crest (there the second
 * derivative changes sign), and where the way runs across the gradient's direction.
 * Sources: Mortensen and Barrett, "Interactive segmentation with intelligent scissors", Graphical Models and Image Processing 60 (1998)
 * (the three costs and their weights, shortest paths); Dial, Communications of the ACM 12 (1969) (the queue of buckets).
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { withRoom } from '../kernels'
import { type Box } from '../raster/content'
import { cropPicture } from '../raster/crop'
import { halvePicture } from '../raster/levels'
import { type Picture, words } from '../raster/picture'
import { STRONGEST_GRADIENT } from '../steps/liveWire'
import { type Point } from '../vector/fill'

/** Weights of zero crossing, direction and gradient: 0.43, 0.43, 0.14 in the paper; here of 100. */
const CROSSING = 34,
  DIRECTION = 32,
  GRADIENT = 34

/** Planes of a window have two px more all round: the filters reach that far, and nothing goes there. */
const RIM = 2
const UNREACHED = 255,
  SEED = 8,
  FAR = 0x7fffffff
const STEP_X = [1, 1, 0, -1, -1, -1, 0, 1],
  STEP_Y = [0, 1, 1, 1, 0, -1, -1, -1]
/** What lies beyond the corridor, and how much dearer steps are there. */
const BEYOND = 2,
  DEARER = 1.1
/** An edge may lead so far beyond the corridor, as a share of the way between the ends. */
const BULGE = 0.45

/** The cheapest ways from a seed to the pixels of a window. */
export interface WireTree {
  /** Whole px of the picture. */
  readonly box: Box
  /** From one row of the planes to the next; the window's first px is at RIM, RIM. */
  readonly stride: number
  /** Where each pixel is reached from, towards the seed: 0-7 as STEP_X, 8 at the seed, 255 where not reached. */
  readonly from: Uint8Array
  /** CIELAB units a pixel, and the unit vector along the edge; zero where there is none. */
  readonly gradient: Float32Array
  readonly alongX: Float32Array
  readonly alongY: Float32Array
}

export interface WireWindow {
  /** Whole px within the picture. */
  readonly box: Box
  /** Gradients below this are no edges, CIELAB units a px. */
  readonly edgeGradient: number
  /** Where paths may go, 0 nowhere, 1 freely, 2 at a higher price; everywhere when absent. */
  readonly within?: Uint8Array
  /** Stops when this pixel is reached, px of the picture. */
  readonly until?: Point
}

/** Shortest paths from a seed (px of the picture), which are there while `use` looks at them. Memory: some 49 bytes for each pixel of the window. */
export function wires<T>(
  picture: Picture,
  seed: Point,
  { box, edgeGradient, within, until }: WireWindow,
  use: (tree: WireTree) => T,
): T {
  const { x: left, y: top, width, height } = box,
    stride = width + 2 * RIM,
    rows = height + 2 * RIM,
    size = stride * rows,
    row = stride * 4,
    plane = size * 4 + 32
  return withRoom((stack) => {
    const { run } = stack,
      [colours, across, gradient, alongX, alongY, best] = [3, 3, 1, 1, 1, 1].map((planes) =>
        stack.take(planes * plane),
      ),
      from = stack.take(size),
      wordsAt = stack.take(row + 16),
      buckets = stack.take(2048),
      progress = stack.take(64),
      linear = stack.take(LINEAR_OF_BYTE.byteLength)
    const cells = across,
      savings = across + 2 * plane // when the colours are calm
    stack.words(progress, 4).set([0, -1, 0, 0])
    stack.floats(linear, 256).set(LINEAR_OF_BYTE)
    const pixels = words(picture),
      line = new Uint32Array(run.memory.buffer, wordsAt, stride)
    for (let v = 0; v < rows; v++) {
      const first = Math.min(picture.height - 1, Math.max(0, top + v - RIM)) * picture.width,
        from = Math.max(0, left - RIM),
        to = Math.min(picture.width, left + width + RIM)
      line.set(pixels.subarray(first + from, first + to), from - left + RIM)
      line.fill(pixels[first], 0, from - left + RIM)
      line.fill(pixels[first + picture.width - 1], to - left + RIM)
      run.labRow(wordsAt, colours + v * row, plane, stride, linear)
    }
    // What lies at the rim is calmed with its neighbour's row, and not looked at.
    for (let c = 0; c < 3; c++) {
      for (let v = 0; v < rows; v++) run.calmRow(colours + c * plane + v * row, 4, across + c * plane + v * row, stride)
      for (let v = 1; v < rows - 1; v++)
        run.calmRow(across + c * plane + v * row, row, colours + c * plane + v * row, stride)
    }
    const starts = Array.from({ length: height }, (_, y) => (y + RIM) * stride + RIM)
    stack.floats(gradient, size).fill(0)
    for (const start of starts)
      run.slopeRow(colours + start * 4, plane, row, gradient + start * 4, alongX + start * 4, alongY + start * 4, width)
    for (const start of starts)
      run.cellRow(
        gradient + start * 4,
        alongX + start * 4,
        alongY + start * 4,
        row,
        cells + start * 8,
        savings + start * 4,
        width,
        edgeGradient,
        STRONGEST_GRADIENT,
        GRADIENT,
        CROSSING,
        DIRECTION,
      )
    const reached = stack.words(best, size).fill(0),
      price = new Uint16Array(run.memory.buffer, cells, size * 4)
    starts.forEach((start, y) => {
      if (!within) {
        reached.fill(FAR, start, start + width)
        return
      }
      for (let x = 0, k = y * width, i = start; x < width; x++, k++, i++) {
        if (within[k]) reached[i] = FAR
        if (within[k] === BEYOND) for (let axis = 0; axis < 4; axis++) price[i * 4 + axis] *= DEARER
      }
    })
    stack.bytes(from, size).fill(UNREACHED)
    const at = placeOf(box, stride, seed),
      goal = until ? placeOf(box, stride, until) : -1
    let capacity = size + 64
    const pool = stack.take(capacity * 8)
    while (!run.cheapestWays(cells, savings, stride, best, from, buckets, pool, capacity, progress, at, goal)) {
      stack.take(size * 8)
      capacity += size
    }
    const ways = stack.bytes(from, size)
    ways[at] = SEED
    return use({
      box,
      stride,
      from: ways,
      gradient: stack.floats(gradient, size),
      alongX: stack.floats(alongX, size),
      alongY: stack.floats(alongY, size),
    })
  })
}

const placeOf = ({ x, y, width, height }: Box, stride: number, [px, py]: Point): number =>
  (Math.min(height - 1, Math.max(0, Math.floor(py) - y)) + RIM) * stride +
  Math.min(width - 1, Math.max(0, Math.floor(px) - x)) +
  RIM

/** The way from the seed to a place, px of the picture at the middles of pixels, moved onto the gradient's crest by less than a pixel; straight where it is not reached. */
export function wirePath(tree: WireTree, seed: Point, to: Point): Point[] {
  const { box, stride, from } = tree,
    out: Point[] = []
  let i = placeOf(box, stride, to)
  if (from[i] === UNREACHED) return [seed, to]
  for (; from[i] !== SEED; i += STEP_Y[from[i]] * stride + STEP_X[from[i]]) out.push(onCrest(tree, i))
  out.push(onCrest(tree, i))
  return out.reverse()
}

/** A pixel's middle moved across the edge to where a parabola through the gradients has its top, at most half a pixel. */
function onCrest({ box, stride, gradient, alongX, alongY }: WireTree, i: number): Point {
  const u = (i % stride) - RIM,
    v = Math.floor(i / stride) - RIM,
    x = box.x + u + 0.5,
    y = box.y + v + 0.5
  if (u === 0 || v === 0 || u === box.width - 1 || v === box.height - 1 || (alongX[i] === 0 && alongY[i] === 0))
    return [x, y]
  const nx = -alongY[i],
    ny = alongX[i],
    sideways = Math.abs(nx) >= Math.abs(ny),
    step = sideways ? Math.sign(nx) : Math.sign(ny) * stride
  const before = gradient[i - step],
    here = gradient[i],
    after = gradient[i + step],
    bend = before - 2 * here + after
  const shift = bend < -1e-3 ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend))) : 0
  return sideways ? [x + shift * Math.sign(nx), y] : [x, y + shift * Math.sign(ny)]
}

const reachOf = (a: Point, b: Point, width: number, bulge: number): number =>
  width + bulge * Math.hypot(b[0] - a[0], b[1] - a[1])

/** The window of a piece of wire, within the picture. */
function windowOf(
  picture: { readonly width: number; readonly height: number },
  a: Point,
  b: Point,
  width: number,
  bulge: number,
): Box {
  const reach = reachOf(a, b, width, bulge)
  const x = Math.min(picture.width - 1, Math.max(0, Math.floor(Math.min(a[0], b[0]) - reach))),
    y = Math.min(picture.height - 1, Math.max(0, Math.floor(Math.min(a[1], b[1]) - reach)))
  return {
    x,
    y,
    width: Math.max(1, Math.min(picture.width, Math.ceil(Math.max(a[0], b[0]) + reach)) - x),
    height: Math.max(1, Math.min(picture.height, Math.ceil(Math.max(a[1], b[1]) + reach)) - y),
  }
}

/** In a window 1 for what lies within `width` px of the straight line between the ends. Edges that bulge further than that are followed too, at a price: what lies beyond is 2. */
function corridor(box: Box, a: Point, b: Point, width: number, bulge: number): Uint8Array {
  const reach = reachOf(a, b, width, bulge),
    within = new Uint8Array(box.width * box.height),
    dx = b[0] - a[0],
    dy = b[1] - a[1],
    length2 = dx * dx + dy * dy
  for (let v = 0; v < box.height; v++)
    for (let u = 0; u < box.width; u++) {
      const px = box.x + u + 0.5 - a[0],
        py = box.y + v + 0.5 - a[1],
        t = length2 > 0 ? Math.max(0, Math.min(1, (px * dx + py * dy) / length2)) : 0
      const x = px - t * dx,
        y = py - t * dy,
        away = x * x + y * y
      if (away <= reach * reach) within[v * box.width + u] = away <= (width + 1) ** 2 ? 1 : BEYOND
    }
  return within
}

/** Windows have at most so many pixels; longer pieces are found at half the size. */
const MOST_PIXELS = 4_000_000

/** The wire between two anchors, px. @param reach how far it looks to either side of the straight line, px @param edgeGradient CIELAB units a px */
export function wireBetween(
  picture: Picture,
  a: Point,
  b: Point,
  reach: number,
  edgeGradient: number,
  bulge = BULGE,
): Point[] {
  const box = windowOf(picture, a, b, reach, bulge)
  if (box.width * box.height <= MOST_PIXELS)
    return wires(picture, a, { box, edgeGradient, within: corridor(box, a, b, reach, bulge), until: b }, (tree) =>
      wirePath(tree, a, b),
    )
  const half = ([x, y]: Point): Point => [(x - box.x) / 2, (y - box.y) / 2]
  return wireBetween(halvePicture(cropPicture(picture, box)), half(a), half(b), reach / 2, edgeGradient, bulge).map(
    ([x, y]) => [x * 2 + box.x, y * 2 + box.y],
  )
}

/** At the level a moving pointer is followed on, the way between the ends is at most so many px, and edges may lead less far aside. */
const QUICK_LENGTH = 220,
  QUICK_BULGE = 0.15

/** The wire to a moving pointer, on the level where it is short. @param levels full size first, each half the one before */
export function quickWire(
  levels: readonly Picture[],
  a: Point,
  b: Point,
  reach: number,
  edgeGradient: number,
): Point[] {
  let level = 0
  while (level < levels.length - 1 && Math.hypot(b[0] - a[0], b[1] - a[1]) / 2 ** level > QUICK_LENGTH) level++
  const scale = 2 ** level,
    down = ([x, y]: Point): Point => [x / scale, y / scale]
  return wireBetween(levels[level], down(a), down(b), Math.max(4, reach / scale), edgeGradient, QUICK_BULGE).map(
    ([x, y]) => [x * scale, y * scale],
  )
}
