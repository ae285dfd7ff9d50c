/**
 * Inner loops that TypeScript leaves far from the memory's speed, as WebAssembly with SIMD. Their sources are in assembly/;
 * `bin/kernels` compiles them. One instance for each thread: callers lay out their data from `KERNEL_BASE` on, use it at once and
 * copy it out before anything else runs.
 */
import { COMPILED } from './compiled'

export interface Exports {
  readonly memory: WebAssembly.Memory
  readonly maxRows: (
    target: number,
    targetStride: number,
    stamp: number,
    stampStride: number,
    count: number,
    rows: number,
  ) => void
  readonly layOver: (below: number, coverage: number, count: number, strength: number, erase: boolean) => void
  readonly lookUpColours: (
    words: number,
    out: number,
    count: number,
    table: number,
    bits: number,
    unknown: number,
  ) => number
  readonly makeEdges: (
    points: number,
    ends: number,
    outlines: number,
    height: number,
    edges: number,
    firstOfRow: number,
  ) => number
  readonly fillRows: (
    edges: number,
    firstOfRow: number,
    active: number,
    room: number,
    from: number,
    to: number,
    width: number,
    out: number,
    stride: number,
    evenOdd: boolean,
    antialias: boolean,
  ) => void
  readonly mapBytes: (from: number, to: number, count: number, table: number) => void
  readonly unpackRow: (from: number, to: number, count: number, opaque: boolean, table: number) => void
  readonly packRow: (from: number, to: number, count: number, table: number, steps: number) => void
  readonly compositeRow: (
    backdrop: number,
    source: number,
    coverage: number,
    opacity: number,
    count: number,
    mode: number,
    operator: number,
  ) => void
  readonly mixRow: (before: number, after: number, coverage: number, opacity: number, count: number) => void
  readonly coverRow: (bytes: number, to: number, count: number, gain: number, lift: number) => number
  readonly sampleRow: (
    source: number,
    stride: number,
    width: number,
    height: number,
    u: number,
    v: number,
    du: number,
    dv: number,
    to: number,
    count: number,
    fine: boolean,
  ) => number
  readonly scaleFloats: (at: number, count: number, gain: number, lift: number) => void
  readonly convertRow: (
    source: number,
    target: number,
    count: number,
    divide: boolean,
    multiply: boolean,
    table: number,
    steps: number,
    rooted: boolean,
  ) => void
  readonly throughTables: (
    source: number,
    target: number,
    count: number,
    red: number,
    green: number,
    blue: number,
    steps: number,
    rooted: boolean,
  ) => void
  readonly weighSpans: (from: number, to: number, count: number, starts: number, weights: number, taps: number) => void
  readonly weighRows: (rows: number, to: number, count: number, weights: number, taps: number) => void
  readonly settleRow: (at: number, count: number) => void
  readonly matrixRow: (
    at: number,
    count: number,
    m0: number,
    m1: number,
    m2: number,
    m3: number,
    m4: number,
    m5: number,
    m6: number,
    m7: number,
    m8: number,
  ) => void
  readonly turnHues: (
    at: number,
    count: number,
    turn: number,
    scale: number,
    light: number,
    byHue: number,
    grey: number,
  ) => void
  readonly weighRow: (from: number, to: number, width: number, radius: number, stride: number, weights: number) => void
  readonly sumRow: (from: number, to: number, count: number) => void
  readonly discRow: (
    sums: number,
    stride: number,
    to: number,
    width: number,
    radius: number,
    reaches: number,
    parts: number,
    scale: number,
  ) => void
  readonly addWindows: (
    colours: number,
    plane: number,
    nodes: number,
    alpha: number,
    stride: number,
    from: number,
    count: number,
    epsilon: number,
    weights: number,
    weightPlane: number,
    right: number,
    diagonal: number,
    scratch: number,
  ) => void
  readonly multiplyNodes: (
    runs: number,
    count: number,
    weights: number,
    weightPlane: number,
    grid: number,
    stride: number,
    q: number,
  ) => number
  readonly stepNodes: (
    runs: number,
    count: number,
    grid: number,
    x: number,
    r: number,
    q: number,
    one: number,
    step: number,
  ) => number
  readonly turnNodes: (runs: number, count: number, grid: number, r: number, one: number, keep: number) => void
  readonly clearFlow: (heads: number, rest: number, own: number, nodes: number) => void
  readonly pushFlow: (
    heads: number,
    rest: number,
    own: number,
    rings: number,
    nodes: number,
    progress: number,
    most: number,
  ) => number
  readonly joinRow: (
    heads: number,
    rest: number,
    own: number,
    above: number,
    here: number,
    below: number,
    coloursAbove: number,
    coloursHere: number,
    coloursBelow: number,
    plane: number,
    evidence: number,
    fall: number,
    steps: number,
    per: number,
    from: number,
    to: number,
  ) => number
  readonly doubleStates: (from: number, across: number, to: number, width: number, height: number) => void
  readonly openBand: (
    coarse: number,
    across: number,
    down: number,
    to: number,
    width: number,
    height: number,
    band: number,
  ) => void
  readonly hearRow: (
    words: number,
    from: number,
    count: number,
    states: number,
    table: number,
    near: number,
    shift: number,
    loud: number,
  ) => number
  readonly giveStates: (given: number, states: number, count: number) => void
  readonly markRow: (
    above: number,
    here: number,
    below: number,
    width: number,
    marks: number,
    edges: number,
    first: number,
    soft: boolean,
  ) => number
  readonly shrinkInside: (
    from: number,
    width: number,
    height: number,
    shift: number,
    to: number,
    across: number,
    down: number,
  ) => void
  readonly keepInside: (
    states: number,
    width: number,
    height: number,
    shift: number,
    small: number,
    across: number,
  ) => void
  readonly labRow: (words: number, to: number, plane: number, count: number, linear: number) => void
  readonly halveRow: (top: number, bottom: number, to: number, count: number) => number
  readonly likeliest: (
    samples: number,
    plane: number,
    count: number,
    components: number,
    parts: number,
    to: number,
  ) => void
  readonly opponentRow: (words: number, to: number, plane: number, count: number, loud: number) => void
  readonly calmRow: (from: number, step: number, to: number, count: number) => void
  readonly slopeRow: (
    from: number,
    plane: number,
    stride: number,
    gradient: number,
    alongX: number,
    alongY: number,
    count: number,
  ) => void
  readonly cellRow: (
    gradient: number,
    alongX: number,
    alongY: number,
    stride: number,
    cells: number,
    savings: number,
    count: number,
    least: number,
    strong: number,
    slope: number,
    crossing: number,
    direction: number,
  ) => void
  readonly cheapestWays: (
    cells: number,
    savings: number,
    stride: number,
    best: number,
    from: number,
    buckets: number,
    pool: number,
    capacity: number,
    progress: number,
    seed: number,
    goal: number,
  ) => number
  readonly splineRow: (
    from: number,
    stride: number,
    to: number,
    width: number,
    cells: number,
    weights: number,
    rowWeights: number,
  ) => void
}
export interface Kernels extends Exports {
  /** All of the memory, valid until the next call of `kernels`. */ readonly bytes: Uint8Array<ArrayBuffer>
}

/** The first byte callers may use. */
export const KERNEL_BASE = 4096
const PAGE = 65_536

let module: WebAssembly.Module | undefined
const instantiate = (): Exports =>
  new WebAssembly.Instance(
    (module ??= new WebAssembly.Module(Uint8Array.from(atob(COMPILED), (c) => c.charCodeAt(0)))),
    {},
  ).exports as unknown as Exports

let instance: Exports | undefined

/** The kernels, with at least so many bytes to use after KERNEL_BASE. Callers work in slices: the memory never shrinks. */
export function kernels(size: number): Kernels {
  instance ??= instantiate()
  const { memory } = instance
  const missing = KERNEL_BASE + size - memory.buffer.byteLength
  if (missing > 0) memory.grow(Math.ceil(missing / PAGE))
  return { ...instance, bytes: new Uint8Array(memory.buffer) }
}

/** Kernels with memory of their own, handed out piece by piece and given back in the opposite order: for work that goes on over many calls. */
export class KernelStack {
  readonly run: Exports = instantiate()
  private top = KERNEL_BASE

  /** Room for so many bytes, aligned to 16. Views made earlier may no longer hold: make them anew after each call. */
  take(bytes: number): number {
    const at = this.top
    this.top += (bytes + 15) & ~15
    const missing = this.top - this.run.memory.buffer.byteLength
    if (missing > 0) this.run.memory.grow(Math.ceil(missing / PAGE))
    return at
  }
  /** Gives back everything from a place on. */
  release(at: number): void {
    this.top = at
  }
  floats(at: number, count: number): Float32Array<ArrayBuffer> {
    return new Float32Array(this.run.memory.buffer, at, count)
  }
  words(at: number, count: number): Int32Array<ArrayBuffer> {
    return new Int32Array(this.run.memory.buffer, at, count)
  }
  bytes(at: number, count: number): Uint8Array<ArrayBuffer> {
    return new Uint8Array(this.run.memory.buffer, at, count)
  }
}

/** Memory above this is not kept for the next work, bytes. */
const KEPT = 64 << 20

let shared: KernelStack | undefined

/** Room in kernels for as long as `work` takes; it may call what asks for room too. All of it is given back when it ends. */
export function withRoom<T>(work: (stack: KernelStack) => T): T {
  const stack = (shared ??= new KernelStack()),
    start = stack.take(0)
  try {
    return work(stack)
  } finally {
    stack.release(start)
    if (start === KERNEL_BASE && stack.run.memory.buffer.byteLength > KEPT) shared = undefined
  }
}
