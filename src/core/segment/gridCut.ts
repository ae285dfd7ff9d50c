/**
 * A cut of pixels into inside and outside: what each colour says, against how much it costs to separate pixels that look alike.
 * Sources: Boykov and Jolly, "Interactive graph cuts for optimal boundary & region segmentation of objects in N-D images", ICCV 2001;
 * the contrast term as in Rother, Kolmogorov and Blake 2004, equation 11 (eight neighbours, weighted by their distance).
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { type KernelStack, withRoom } from '../kernels'
import { type Size } from '../raster/picture'
import { FlowGrid } from './maxFlow'
import { type LabPlanes } from './labPlanes'

export const UNDECIDED = 0,
  OUTSIDE = 1,
  INSIDE = 2

/** Costs become whole capacities times this. */
const SCALE = 64
/** Squared differences are told apart up to so many times the mean one, in so many steps. */
const FARTHEST = 24,
  STEPS = 1024
/** No pixel's colour says more than this (nats): a single pixel does not outweigh what is around it. */
const MOST_EVIDENCE = 12

/** Mean squared CIELAB difference of neighbours, from which the contrast term takes its measure. */
export function meanContrast({ width, height, L, a, b }: LabPlanes): number {
  let sum = 0
  for (let y = 0; y < height; y++)
    for (let x = 1, i = y * width + 1; x < width; x++, i++)
      sum += (L[i] - L[i - 1]) ** 2 + (a[i] - a[i - 1]) ** 2 + (b[i] - b[i - 1]) ** 2
  return Math.max(0.5, sum / Math.max(1, height * (width - 1)))
}

export interface GridCut {
  /** UNDECIDED, OUTSIDE or INSIDE for each pixel; the undecided are decided here, in place of nothing else. */
  readonly state: Uint8Array
  /** How much pixels speak for inside, nats, below zero for outside: a run of them, into `out` from `at` on; asked for undecided pixels only. */
  readonly evidence: (from: number, count: number, out: Float32Array, at: number) => void
  /** The pixels' colours, red in the low byte. */
  readonly words: Uint32Array
  /** Mean squared CIELAB difference of neighbours. */
  readonly contrast: number
  /** What separating two neighbours of equal colour costs, nats. */
  readonly smoothness: number
}

/** Decides every undecided pixel: `state` holds OUTSIDE and INSIDE only when this returns. Takes time and memory by the undecided pixels, of which there may be few. */
export function cutGrid(size: Size, cut: GridCut, check: (progress: number) => void = () => {}): void {
  const open = undecidedIn(cut.state, size)
  if (open.nodes > 0) withRoom((stack) => cutNodes(stack, size, cut, open, check))
}

/** Nodes are the undecided pixels, row by row, in runs: first px, the one after the last. */
interface Undecided {
  readonly runs: readonly number[]
  /** Of each row, and of the one after the last. */
  readonly firstRun: Int32Array
  readonly firstNode: Int32Array
  readonly nodes: number
}

function undecidedIn(state: Uint8Array, { width, height }: Size): Undecided {
  const runs: number[] = [],
    firstRun = new Int32Array(height + 1),
    firstNode = new Int32Array(height + 1)
  let nodes = 0
  for (let y = 0, next = state.indexOf(UNDECIDED); y < height; y++) {
    const row = y * width
    while (next >= 0 && next < row + width) {
      const from = next - row
      let x = from
      while (x < width && state[row + x] === UNDECIDED) x++
      runs.push(from, x)
      nodes += x - from
      next = state.indexOf(UNDECIDED, row + x)
    }
    firstRun[y + 1] = runs.length
    firstNode[y + 1] = nodes
  }
  return { runs, firstRun, firstNode, nodes }
}

function cutNodes(
  stack: KernelStack,
  size: Size,
  { state, evidence, words, contrast, smoothness }: GridCut,
  open: Undecided,
  check: (progress: number) => void,
): void {
  const { width, height } = size,
    { runs, firstRun, firstNode, nodes } = open
  const flow = new FlowGrid(stack, nodes),
    { run } = stack
  // Three rows at a time: which node each pixel is, with one more at either end, and its colours.
  const rowBytes = (width + 2) * 4,
    plane = (width + 3) * 4,
    numbers = stack.take(3 * rowBytes),
    colourRows = stack.take(9 * plane),
    wordsAt = stack.take(plane),
    linear = stack.take(LINEAR_OF_BYTE.byteLength),
    speaks = stack.take(plane),
    fallAt = stack.take((STEPS + 1) * 2)
  const numbersOf = [0, 1, 2].map((k) => stack.words(numbers + k * rowBytes, width + 2)),
    wordRow = stack.words(wordsAt, width),
    nats = stack.floats(speaks, width),
    capacities = stack.words(speaks, width)
  // What a difference costs, by its square: the exponential on a fine grid.
  const beta = -1 / (2 * contrast),
    straight = smoothness * SCALE
  new Uint16Array(run.memory.buffer, fallAt, STEPS + 1).set(
    Array.from({ length: STEPS + 1 }, (_, k) =>
      Math.round(straight * Math.exp((beta * k * FARTHEST * contrast) / STEPS)),
    ),
  )
  stack.floats(linear, LINEAR_OF_BYTE.length).set(LINEAR_OF_BYTE)
  const rows: Rows = { size, open, state, words, run, numbersOf, wordRow, wordsAt, colourRows, plane, linear }
  let through = 0,
    loaded = -2
  for (let y = 0; y < height; y++) {
    if (firstRun[y] === firstRun[y + 1]) continue
    for (let v = Math.max(y - 1, loaded + 1); v <= y + 1; v++) loadRow(rows, (v + 3) % 3, v)
    loaded = y + 1
    for (let k = firstRun[y]; k < firstRun[y + 1]; k += 2) {
      const from = runs[k],
        to = runs[k + 1]
      evidence(y * width + from, to - from, nats, from)
      for (let x = from; x < to; x++)
        capacities[x] = Math.round(SCALE * Math.max(-MOST_EVIDENCE, Math.min(MOST_EVIDENCE, nats[x])))
      const [above, here, below] = [y + 2, y, y + 1].map((v) => v % 3)
      through += run.joinRow(
        flow.heads,
        flow.rest,
        flow.own,
        numbers + above * rowBytes,
        numbers + here * rowBytes,
        numbers + below * rowBytes,
        colourRows + 3 * above * plane,
        colourRows + 3 * here * plane,
        colourRows + 3 * below * plane,
        plane,
        speaks,
        fallAt,
        STEPS,
        STEPS / (FARTHEST * contrast),
        from,
        to,
      )
    }
  }
  flow.passes(through)
  flow.maxFlow(check)
  const inside = flow.sides()
  for (let y = 0; y < height; y++)
    for (let k = firstRun[y], node = firstNode[y]; k < firstRun[y + 1]; k += 2)
      for (let i = y * width + runs[k], end = y * width + runs[k + 1]; i < end; i++)
        state[i] = inside[node++] ? INSIDE : OUTSIDE
}

/** Rows of pixels in the kernels, three at a time. */
interface Rows {
  readonly size: Size
  readonly open: Undecided
  readonly state: Uint8Array
  readonly words: Uint32Array
  readonly run: KernelStack['run']
  readonly numbersOf: readonly Int32Array[]
  readonly wordRow: Int32Array
  readonly wordsAt: number
  readonly colourRows: number
  readonly plane: number
  readonly linear: number
}

/** Row y into one of the three: which node each pixel is, or −1 and the side that is decided, and its colour. */
function loadRow(
  { size: { width, height }, open, state, words, run, numbersOf, wordRow, wordsAt, colourRows, plane, linear }: Rows,
  slot: number,
  y: number,
): void {
  const { runs, firstRun, firstNode } = open
  const number = numbersOf[slot].fill(-1)
  if (y < 0 || y >= height) return
  const row = y * width
  // What is undecided, here and in the rows beside this one, and a pixel more at either end: in order, and what meets at once.
  const waiting = [y - 1, y, y + 1]
    .filter((v) => v >= 0 && v < height)
    .map((v) => ({ run: firstRun[v], end: firstRun[v + 1] }))
  for (let from = 0, to = 0; ;) {
    let first: (typeof waiting)[number] | undefined
    for (const side of waiting) if (side.run < side.end && (!first || runs[side.run] < runs[first.run])) first = side
    if (to > from && (!first || runs[first.run] - 1 > to)) {
      for (let x = from; x < to; x++) {
        wordRow[x] = words[row + x]
        number[x + 1] = -1 - state[row + x]
      }
      run.labRow(wordsAt + from * 4, colourRows + 3 * slot * plane + from * 4, plane, to - from, linear)
      from = to
    }
    if (!first) break
    if (to <= from) from = Math.max(0, runs[first.run] - 1)
    to = Math.max(to, Math.min(width, runs[first.run + 1] + 1))
    first.run += 2
  }
  for (let k = firstRun[y], node = firstNode[y]; k < firstRun[y + 1]; k += 2)
    for (let x = runs[k]; x < runs[k + 1]; x++) number[x + 1] = node++
}
