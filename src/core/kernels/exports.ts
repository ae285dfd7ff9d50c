/** What the compiled kernels export (assembly/index.ts). */

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
  readonly convolveRow: (
    from: number,
    stride: number,
    step: number,
    side: number,
    inputs: number,
    weights: number,
    bias: number,
    more: number,
    to: number,
    outputs: number,
    width: number,
    rectify: boolean,
  ) => void
  readonly labRow: (words: number, to: number, plane: number, count: number, linear: number) => void
  readonly halveCoverage: (from: number, width: number, rows: number, to: number) => void
  readonly tallyRows: (from: number, width: number, rows: number, row: number, to: number) => void
  readonly halveRow: (top: number, bottom: number, to: number, count: number) => number
  readonly likeliest: (
    samples: number,
    plane: number,
    count: number,
    components: number,
    parts: number,
    to: number,
  ) => void
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
  readonly rowsSince: (set: number, before: number, to: number, count: number) => void
  readonly rowsUntil: (after: number, here: number, count: number) => void
  readonly withinRow: (rows: number, across: number, most: number, out: number, count: number) => void
}
