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

/** Decides every undecided pixel: `state` holds OUTSIDE and INSIDE only when this returns. */
export function cutGrid({ width, height }: Size, { state, evidence, colours, contrast, smoothness }: GridCut, check: (progress: number) => void = () => {}): void {
  // Nodes are the undecided pixels, row by row; colours are kept for each row's span of undecided pixels and their neighbours.
  const nodeOf = new Int32Array(width * height).fill(-1)
  let nodes = 0
  for (let i = 0; i < state.length; i++) if (state[i] === UNDECIDED) nodeOf[i] = nodes++
  if (nodes === 0) return
  const graph = new FlowGraph(nodes, nodes * 4)
  const beta = -1 / (2 * contrast), straight = smoothness * SCALE
  const row = () => ({ L: new Float32Array(width), a: new Float32Array(width), b: new Float32Array(width), from: 0, to: 0 })
  let here = row(), below = row()
  // Colours are asked for where an undecided pixel is one of the nine around, in runs.
  const load = (into: typeof here, y: number) => {
    into.from = width
    into.to = 0
    if (y < 0 || y >= height) return
    const up = (y > 0 ? y - 1 : y) * width, row = y * width, down = (y < height - 1 ? y + 1 : y) * width
    for (let x = 0; x < width;) {
      while (x < width && nodeOf[up + x] < 0 && nodeOf[row + x] < 0 && nodeOf[down + x] < 0) x++
      if (x === width) break
      const start = Math.max(into.to, x - 1)
      let end = x + 1
      for (let quiet = 0; x < width && quiet < 2; x++) if (nodeOf[up + x] >= 0 || nodeOf[row + x] >= 0 || nodeOf[down + x] >= 0) { end = x + 2; quiet = 0 } else quiet++
      end = Math.min(width, end)
      if (end > start) colours(row + start, end - start, into.L, into.a, into.b, start)
      if (start < into.from) into.from = start
      into.to = end
    }
    if (into.to === 0) into.from = 0
  }
  // What a difference costs, by its square: the exponential on a fine grid.
  const fall = Uint16Array.from({ length: STEPS + 1 }, (_, k) => Math.round(straight * Math.exp((beta * k * FARTHEST * contrast) / STEPS))), per = STEPS / (FARTHEST * contrast)
  const alike = (p: typeof here, x: number, q: typeof here, u: number): number => {
    const dl = p.L[x] - q.L[u], da = p.a[x] - q.a[u], db = p.b[x] - q.b[u], at = (dl * dl + da * da + db * db) * per
    return at >= STEPS ? fall[STEPS] : fall[at | 0]
  }
  const join = (i: number, j: number, weight: number) => {
    const p = nodeOf[i], q = nodeOf[j], capacity = Math.round(weight)
    if (p >= 0 && q >= 0) graph.addEdge(p, q, capacity, capacity)
    else if (p >= 0) { if (state[j] === INSIDE) graph.addTerminals(p, capacity, 0); else graph.addTerminals(p, 0, capacity) }
    else if (q >= 0) { if (state[i] === INSIDE) graph.addTerminals(q, capacity, 0); else graph.addTerminals(q, 0, capacity) }
  }
  load(here, 0)
  for (let y = 0; y < height; y++) {
    load(below, y + 1)
    for (let x = here.from; x < here.to; x++) {
      const i = y * width + x
      if (nodeOf[i] >= 0) {
        const e = Math.round(SCALE * Math.max(-MOST_EVIDENCE, Math.min(MOST_EVIDENCE, evidence(i))))
        if (e > 0) graph.addTerminals(nodeOf[i], e, 0); else graph.addTerminals(nodeOf[i], 0, -e)
      }
      const inside = nodeOf[i] >= 0
      if (x + 1 < width && (inside || nodeOf[i + 1] >= 0)) join(i, i + 1, alike(here, x, here, x + 1))
      if (y + 1 === height) continue
      if (inside || nodeOf[i + width] >= 0) join(i, i + width, alike(here, x, below, x))
      if (x + 1 < width && (inside || nodeOf[i + width + 1] >= 0)) join(i, i + width + 1, Math.SQRT1_2 * alike(here, x, below, x + 1))
      if (x > 0 && (inside || nodeOf[i + width - 1] >= 0)) join(i, i + width - 1, Math.SQRT1_2 * alike(here, x, below, x - 1))
    }
    const done = here
    here = below
    below = done
  }
  graph.maxFlow(check)
  for (let i = 0; i < state.length; i++) if (nodeOf[i] >= 0) state[i] = graph.onSourceSide(nodeOf[i]) ? INSIDE : OUTSIDE
}
