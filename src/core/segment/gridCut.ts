/**
 * A cut of pixels into inside and outside: what each colour says, against how much it costs to separate pixels that look alike.
 * Sources: Boykov and Jolly, "Interactive graph cuts for optimal boundary & region segmentation of objects in N-D images", ICCV 2001;
 * the contrast term as in Rother, Kolmogorov and Blake 2004, equation 11 (eight neighbours, weighted by their distance).
 */
import { type Size } from '../raster/picture'
import { FlowGraph } from './maxFlow'
import { type LabPlanes } from './labPlanes'

export const UNDECIDED = 0, OUTSIDE = 1, INSIDE = 2

/** Costs become whole capacities times this. */
const SCALE = 64
/** Squared differences are told apart up to so many times the mean one, in so many steps. */
const FARTHEST = 24, STEPS = 1024
/** No pixel's colour says more than this (nats): a single pixel does not outweigh what is around it. */
const MOST_EVIDENCE = 12

/** Mean squared CIELAB difference of neighbours, from which the contrast term takes its measure. */
export function meanContrast({ width, height, L, a, b }: LabPlanes): number {
  let sum = 0
  for (let y = 0; y < height; y++) for (let x = 1, i = y * width + 1; x < width; x++, i++) sum += (L[i] - L[i - 1]) ** 2 + (a[i] - a[i - 1]) ** 2 + (b[i] - b[i - 1]) ** 2
  return Math.max(0.5, sum / Math.max(1, height * (width - 1)))
}

export interface GridCut {
  /** UNDECIDED, OUTSIDE or INSIDE for each pixel; the undecided are decided here, in place of nothing else. */
  readonly state: Uint8Array
  /** How much a pixel's colour speaks for inside, nats, below zero for outside; asked for undecided pixels only. */
  readonly evidence: (pixel: number) => number
  /** L*, a*, b* of a run of pixels, into the three arrays from `at` on; asked for undecided pixels and their neighbours. */
  readonly colours: (from: number, count: number, L: Float32Array, a: Float32Array, b: Float32Array, at: number) => void
  /** Mean squared difference of neighbours. */
  readonly contrast: number
  /** What separating two neighbours of equal colour costs, nats. */
  readonly smoothness: number
}

/** Decides every undecided pixel: `state` holds OUTSIDE and INSIDE only when this returns. Takes time by the undecided pixels, of which there may be few. */
export function cutGrid({ width, height }: Size, { state, evidence, colours, contrast, smoothness }: GridCut, check: (progress: number) => void = () => {}): void {
  // Nodes are the undecided pixels, row by row, in runs.
  const nodeOf = new Int32Array(width * height), runs: number[] = [], firstRun = new Int32Array(height + 1)
  let nodes = 0
  for (let y = 0; y < height; y++) {
    firstRun[y] = runs.length
    for (let i = y * width, end = i + width; i < end; i++) {
      if (state[i] !== UNDECIDED) continue
      const from = i
      while (i < end && state[i] === UNDECIDED) nodeOf[i++] = nodes++
      runs.push(from - y * width, i - y * width)
    }
  }
  firstRun[height] = runs.length
  if (nodes === 0) return
  const graph = new FlowGraph(nodes, nodes * 4), straight = smoothness * SCALE
  const row = () => ({ L: new Float32Array(width), a: new Float32Array(width), b: new Float32Array(width) })
  let above = row(), here = row(), below = row()
  /** The colours of a row, where an undecided pixel is one of the nine around. */
  const load = (into: typeof here, y: number) => {
    if (y < 0 || y >= height) return
    let done = 0
    for (let r = Math.max(0, y - 1); r <= Math.min(height - 1, y + 1); r++, done = 0) for (let k = firstRun[r]; k < firstRun[r + 1]; k += 2) {
      const from = Math.max(done, runs[k] - 1, 0), to = Math.min(width, runs[k + 1] + 1)
      if (to > from) colours(y * width + from, to - from, into.L, into.a, into.b, from)
      done = to
    }
  }
  // What a difference costs, by its square: the exponential on a fine grid.
  const beta = -1 / (2 * contrast), fall = Uint16Array.from({ length: STEPS + 1 }, (_, k) => Math.round(straight * Math.exp((beta * k * FARTHEST * contrast) / STEPS))), per = STEPS / (FARTHEST * contrast)
  const alike = (p: typeof here, x: number, q: typeof here, u: number): number => {
    const dl = p.L[x] - q.L[u], da = p.a[x] - q.a[u], db = p.b[x] - q.b[u], at = (dl * dl + da * da + db * db) * per
    return at >= STEPS ? fall[STEPS] : fall[at | 0]
  }
  /** With a decided neighbour a node is joined to its side; with an undecided one it is joined once, by the first of the two. */
  const join = (i: number, j: number, weight: number) => {
    const capacity = Math.round(weight), side = state[j]
    if (side === UNDECIDED) { if (j > i) graph.addEdge(nodeOf[i], nodeOf[j], capacity, capacity) }
    else if (side === INSIDE) graph.addTerminals(nodeOf[i], capacity, 0)
    else graph.addTerminals(nodeOf[i], 0, capacity)
  }
  load(here, 0)
  for (let y = 0; y < height; y++) {
    load(below, y + 1)
    const up = y > 0, down = y + 1 < height
    for (let k = firstRun[y]; k < firstRun[y + 1]; k += 2) for (let x = runs[k], i = y * width + x; x < runs[k + 1]; x++, i++) {
      const e = Math.round(SCALE * Math.max(-MOST_EVIDENCE, Math.min(MOST_EVIDENCE, evidence(i))))
      if (e > 0) graph.addTerminals(nodeOf[i], e, 0); else graph.addTerminals(nodeOf[i], 0, -e)
      const left = x > 0, right = x + 1 < width
      if (right) join(i, i + 1, alike(here, x, here, x + 1))
      if (down) {
        join(i, i + width, alike(here, x, below, x))
        if (right) join(i, i + width + 1, Math.SQRT1_2 * alike(here, x, below, x + 1))
        if (left) join(i, i + width - 1, Math.SQRT1_2 * alike(here, x, below, x - 1))
      }
      // Backwards only to what is decided.
      if (left && state[i - 1] !== UNDECIDED) join(i, i - 1, alike(here, x, here, x - 1))
      if (up) {
        if (state[i - width] !== UNDECIDED) join(i, i - width, alike(here, x, above, x))
        if (right && state[i - width + 1] !== UNDECIDED) join(i, i - width + 1, Math.SQRT1_2 * alike(here, x, above, x + 1))
        if (left && state[i - width - 1] !== UNDECIDED) join(i, i - width - 1, Math.SQRT1_2 * alike(here, x, above, x - 1))
      }
    }
    const done = above
    above = here
    here = below
    below = done
  }
  graph.maxFlow(check)
  for (let y = 0; y < height; y++) for (let k = firstRun[y]; k < firstRun[y + 1]; k += 2) for (let i = y * width + runs[k], end = y * width + runs[k + 1]; i < end; i++) state[i] = graph.onSourceSide(nodeOf[i]) ? INSIDE : OUTSIDE
}
