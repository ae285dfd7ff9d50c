/** What the compiled kernels export (assembly/index.ts). */

import { type SolveExports } from './solveExports'

export interface Exports extends SolveExports {
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
  readonly hazeRow: (
    at: number,
    count: number,
    table: number,
    taken: number,
    had: number,
    stays: number,
    least: number,
    red: number,
    green: number,
    blue: number,
    airRed: number,
    airGreen: number,
    airBlue: number,
  ) => void
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
}
