/**
 * A matte from the picture and the places where it is known: within every 3×3 window coverage is an affine function of colour.
 * Source: Levin, Lischinski and Weiss, "A closed-form solution to natural image matting", IEEE PAMI 30 (2008), equation 12; solved by
 * conjugate gradients with the diagonal as preconditioner, in the kernels.
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { type KernelStack, withRoom } from '../kernels'
import { type Level } from './level'

/** The grid has so many px all round that belong to nothing: windows reach that far. */
const RIM = 2
/** Weights for the px around each node, by groups of so many nodes; a run of them begins a group. */
const SLOTS = 25,
  GROUP = 4
/** The residual that is left, beside the first one. */
const SETTLED = 1e-4

/** What else is known of each pixel. */
export interface Hints {
  /** How much the affine functions are held back, linear colours 0-1 squared: small where colours tell well, large where grain would. */
  readonly epsilon: Float32Array
  /** What is thought of an unknown pixel's coverage (0-1), and how much that counts beside the windows, which count about 1. */
  readonly belief: Float32Array
  readonly weight: Float32Array
}

/**
 * Solves the unknown pixels from all others, in place, in at most so many rounds; `alpha` is what they start from.
 * Memory: 120 bytes for each unknown pixel, up to four times that where they stand alone, and 32 for each other one. @param check is called now and then with the progress (0-1)
 */
export function solveClosedForm(
  level: Level,
  hints: Hints,
  rounds: number,
  check: (progress: number) => void = () => {},
): void {
  const sizes = sizesOf(level)
  if (sizes.nodes > 0) withRoom((stack) => solveNodes(stack, level, hints, rounds, check, sizes))
}

/** How many nodes there are, those that only fill up groups among them, and how many runs of unknown pixels. */
function sizesOf({ picture: { width, height }, unknown }: Level): { readonly nodes: number; readonly count: number } {
  let nodes = 0,
    count = 0
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, before = 0; x < width; before = unknown[i], x++, i++)
      if (unknown[i]) {
        if (!before) {
          nodes = grouped(nodes)
          count++
        }
        nodes++
      }
  return { nodes: grouped(nodes), count }
}

function solveNodes(
  stack: KernelStack,
  { picture, unknown, alpha }: Level,
  { epsilon, belief, weight }: Hints,
  rounds: number,
  check: (progress: number) => void,
  { nodes, count }: ReturnType<typeof sizesOf>,
): void {
  const { width, height, data } = picture,
    stride = width + 2 * RIM,
    size = stride * (height + 2 * RIM)
  const plane = size * 4,
    nodePlane = nodes * 4
  const colours = stack.take(3 * plane),
    numbers = stack.take(plane),
    known = stack.take(plane),
    epsilons = stack.take(plane),
    grid = stack.take(plane + 64),
    runsAt = stack.take(count * 12),
    pixelsAt = stack.take(count * 4),
    scratch = stack.take(432)
  // Rows of three weights are written by fours: the last one needs room behind it.
  const weights = stack.take(SLOTS * nodePlane + 4),
    r = stack.take(nodePlane),
    diagonal = stack.take(nodePlane),
    x = stack.take(nodePlane),
    q = stack.take(nodePlane)
  const { run } = stack
  const red = stack.floats(colours, size),
    green = stack.floats(colours + plane, size),
    blue = stack.floats(colours + 2 * plane, size),
    alphas = stack.floats(known, size),
    epsilonOf = stack.floats(epsilons, size)
  const numberOf = stack.words(numbers, size),
    grids = stack.floats(grid, size),
    weightsOf = stack.floats(weights, SLOTS * nodes),
    rights = stack.floats(r, nodes),
    diagonals = stack.floats(diagonal, nodes),
    found = stack.floats(x, nodes),
    product = stack.floats(q, nodes)
  weightsOf.fill(0)
  rights.fill(0)
  grids.fill(0)
  numberOf.fill(-1)
  // Unknown pixels one beside another: where in the grid, how many, the number of the first; and where in the picture.
  const runs = stack.words(runsAt, 3 * count),
    pixels = stack.words(pixelsAt, count)
  // What windows with something unknown see of each row.
  const first = new Int32Array(height).fill(width),
    last = new Int32Array(height)
  for (let y = 0, k = 0, node = 0; y < height; y++)
    for (let x = 0, row = y * width; x < width; x++) {
      if (!unknown[row + x]) continue
      const from = x
      while (x < width && unknown[row + x]) x++
      runs[3 * k] = (y + RIM) * stride + from + RIM
      runs[3 * k + 1] = x - from
      runs[3 * k + 2] = node
      pixels[k++] = row + from
      node = grouped(node + x - from)
      for (let v = Math.max(0, y - RIM); v <= Math.min(height - 1, y + RIM); v++) {
        first[v] = Math.max(0, Math.min(first[v], from - RIM))
        last[v] = Math.max(last[v], x + RIM)
      }
    }
  for (let y = 0; y < height; y++)
    for (
      let x = first[y], i = y * width + x, to = (y + RIM) * stride + RIM + x, end = Math.min(width, last[y]);
      x < end;
      x++, i++, to++
    ) {
      red[to] = LINEAR_OF_BYTE[data[i * 4]]
      green[to] = LINEAR_OF_BYTE[data[i * 4 + 1]]
      blue[to] = LINEAR_OF_BYTE[data[i * 4 + 2]]
      alphas[to] = alpha[i]
      epsilonOf[to] = epsilon[i]
    }
  for (let k = 0; k < count; k++)
    for (let n = 0, place = runs[3 * k], node = runs[3 * k + 2]; n < runs[3 * k + 1]; n++) {
      numberOf[place + n] = node + n
      found[node + n] = grids[place + n] = alpha[pixels[k] + n]
    }
  // Windows lie whole within the picture.
  for (let y = 1; y < height - 1 && width > 2; y++) {
    const from = Math.max(1, first[y])
    run.addWindows(
      colours,
      plane,
      numbers,
      known,
      stride,
      (y + RIM) * stride + RIM + from,
      Math.min(width - 1, last[y]) - from,
      epsilons,
      weights,
      r,
      scratch,
    )
    if (y % 32 === 0) check((0.3 * y) / height)
  }
  run.groupNodes(weights, nodes, scratch)
  for (let k = 0; k < count; k++) {
    let i = pixels[k],
      column = i % width
    const down = windowsOver((i - column) / width, height)
    for (let node = runs[3 * k + 2], end = node + runs[3 * k + 1]; node < end; i++, column++, node++) {
      // The last term holds what nothing else does: a picture of one row has no windows.
      diagonals[node] = weightsOf[ownWeight(node)] += windowsOver(column, width) * down + weight[i] + 1e-9
      rights[node] += weight[i] * belief[i] + 1e-9 * alpha[i]
    }
  }
  // r = right − A x, p = r / diagonal.
  run.multiplyNodes(runsAt, count, weights, grid, stride, q)
  let rho = 0
  for (let k = 0; k < count; k++)
    for (let n = runs[3 * k + 2], end = n + runs[3 * k + 1]; n < end; n++) {
      rights[n] -= product[n]
      diagonals[n] = 1 / diagonals[n]
      rho += rights[n] * rights[n] * diagonals[n]
    }
  run.turnNodes(runsAt, count, grid, r, diagonal, 0)
  const begun = rho
  for (let round = 0; round < rounds && rho > SETTLED ** 2 * begun && rho > 1e-14; round++) {
    if (round % 4 === 0) check(0.3 + (0.7 * round) / rounds)
    const curvature = run.multiplyNodes(runsAt, count, weights, grid, stride, q)
    if (!(curvature > 0)) break
    const next = run.stepNodes(runsAt, count, grid, x, r, q, diagonal, rho / curvature)
    run.turnNodes(runsAt, count, grid, r, diagonal, next / rho)
    rho = next
  }
  for (let k = 0; k < count; k++)
    for (let i = pixels[k], node = runs[3 * k + 2], end = node + runs[3 * k + 1]; node < end; i++, node++)
      alpha[i] = found[node] > 1 ? 1 : found[node] > 0 ? found[node] : 0
}

/** How many windows, which lie whole within a length, lie over a place. */
const windowsOver = (at: number, length: number): number =>
  Math.max(0, Math.min(at + 1, length - 2) - Math.max(at - 1, 1) + 1)
/** The first node from a number on that begins a group. */
const grouped = (node: number): number => Math.ceil(node / GROUP) * GROUP
/** Where a node's weight for itself lies. */
const ownWeight = (node: number): number => (node - (node % GROUP)) * SLOTS + (SLOTS >> 1) * GROUP + (node % GROUP)
