/** Of what the compiled kernels export: solving, cutting, measuring; the rest stands in exports.ts. */
export interface SolveExports {
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
    right: number,
    scratch: number,
  ) => void
  readonly groupNodes: (weights: number, nodes: number, scratch: number) => void
  readonly multiplyNodes: (
    runs: number,
    count: number,
    weights: number,
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
  readonly decideMarks: (marks: number, count: number) => void
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
  readonly addDoubledRow: (half: number, to: number, channels: number, width: number) => void
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
  readonly turnWeights: (weights: number, inputs: number, outputs: number, to: number) => void
  readonly convolveTiles: (
    from: number,
    row: number,
    inputs: number,
    weights: number,
    bias: number,
    more: number,
    to: number,
    toRow: number,
    outputs: number,
    width: number,
    height: number,
    rectify: boolean,
    rows: number,
    room: number,
  ) => void
  readonly labRow: (words: number, to: number, plane: number, count: number, linear: number) => void
  readonly halveCoverage: (from: number, width: number, rows: number, to: number) => void
  readonly coverageRow: (
    source: number,
    width: number,
    height: number,
    u: number,
    v: number,
    a: number,
    b: number,
    to: number,
    count: number,
  ) => void
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
