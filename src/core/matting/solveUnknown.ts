/**
 * Solves the unknown part of a matte, coarse to fine: each level begins with what half the size says, carried over by the picture's own
 * colours, and is solved in closed form. What the known pixels round about say of a pixel's colour is a hint beside that, taken from
 * local Gaussians (closedForm) or from pairs of samples (sampling).
 * Source: He, Rhemann, Rother, Tang and Sun, "A global sampling method for alpha matting", CVPR 2011, section 4 (sampled coverage as a data term of the closed form).
 */
import { type Solver } from '../fields/solver'
import { type Box } from '../raster/content'
import { cropPicture, cropRows } from '../raster/crop'
import { boundsOf, type Matte, type Picture, type Size } from '../raster/picture'
import { type Hints, solveClosedForm } from './closedForm'
import { alone, type Crew, seenByAll, type Task } from '../parallel/crew'
import { carrier, halved, type Level } from './level'
import { localColours, type LocalColours } from './localColours'
import { noiseOf } from './noise'
import { crisper } from './crisper'
import { shareOfSamples } from './reliance'
import { sampledCoverage } from './sampling'

/** What is known is looked at so far around the unknown pixels, px. */
export const CONTEXT = 96
/** Halved until there are at most so many unknown pixels: from far away the solution comes slowly. */
const FEW = 2000
/** A level gets as many rounds as there is time for: so many pixels' worth, within limits. */
const WORK = 12_000_000,
  LEAST_ROUNDS = 16,
  MOST_ROUNDS = 300
/** Colours are learnt on a level of at most so many pixels. */
const LEARN_PIXELS = 400_000
/** A level with more unknown pixels, or more pixels in all, is solved in blocks of so many px that see so far around themselves. */
const MOST_UNKNOWN = 30_000,
  MOST_PIXELS = 3_000_000,
  BLOCK = 384,
  MARGIN = 16
/** How far the affine functions are held back: by the grain's variance over the square of how well colours tell, within limits; less well known far away from what is known (px). */
const HOLD = 100,
  LEAST_HOLD = 1e-7,
  MOST_HOLD = 1e-5,
  PLAIN_HOLD = 3e-7,
  AWAY = 60
/** How much the hints count at most; local colours at this precision and explained this well. */
const LOCAL_WEIGHT = 0.003,
  SAMPLED_WEIGHT = 0.1,
  PRECISE = 300,
  EXPLAINED = 4

/** Solves, in place, where `unknown` is 1; everything else of `matte` is taken as known. Sizes are the picture's. Throws what `check` throws, and has then changed nothing. */
export function solveUnknown(
  picture: Picture,
  matte: Matte,
  unknown: Uint8Array,
  solver: Solver,
  check: (progress: number) => void,
  crew: Crew = alone,
): void {
  const box = around(boundsOf({ ...picture, data: unknown }), CONTEXT, picture)
  if (!box) return
  const room = box.width * box.height,
    part: Picture = {
      width: box.width,
      height: box.height,
      data: cropRows(picture.data, picture.width, box, new Uint8ClampedArray(crew.allocate(room * 4), 0, room * 4), 4),
    },
    open = cropRows(unknown, picture.width, box, new Uint8Array(crew.allocate(room), 0, room)),
    bytes = cropRows(matte.data, matte.width, box, new Uint8Array(crew.allocate(room), 0, room))
  // Coarser levels; the first one stays as it is, and is worked on in parts.
  const levels: Level[] = []
  const counts = [sumOf(open)]
  for (let n = 0; counts[n] > FEW; n++) {
    const last = levels.at(-1)
    levels.push(last ? halved(last.picture, last.unknown, last.alpha, 1) : halved(part, open, bytes, 255))
    counts.push(sumOf(levels[n].unknown))
    if (counts[n + 1] >= counts[n]) break
  }
  // Colours are learnt anew on each level that is small enough; finer ones use what the last of those said.
  const learns = (n: number) => {
    const { width, height } = n > 0 ? levels[n - 1].picture : part
    return width * height <= (n > 0 || levels.length === 0 ? LEARN_PIXELS : LEARN_PIXELS / 4)
  }
  let last = levels.length
  while (last > 0 && learns(last - 1)) last--
  const solvers: readonly Exclude<Solver, 'auto'>[] = solver === 'auto' ? ['closedForm', 'sampling'] : [solver],
    work = counts.reduce((sum, count, n) => sum + (n >= last ? solvers.length : 1) * count, 0)
  let done = 0
  /** From one level to another, coarse to fine. */
  const solve = (
    levels: readonly Level[],
    bytes: Uint8Array,
    by: Exclude<Solver, 'auto'>,
    learnt: Learnt | undefined,
    from: number,
    to: number,
  ): Learnt => {
    for (let n = from; n >= to; n--) {
      const whole: Level | undefined = n > 0 ? levels[n - 1] : undefined,
        size = whole?.picture ?? part
      const report = (share: number) => check(Math.min(1, (done + share * counts[n]) / work))
      if (!learnt || learns(n))
        learnt = {
          level: n,
          ...learn(whole ?? levelOf(part, open, bytes, { x: 0, y: 0, ...sizeOf(part) }), by, report),
        }
      const noise = noiseOf(whole?.picture ?? part, whole?.unknown ?? open),
        hold = holdOf(learnt, n, noise)
      const inBlocks = n < levels.length && (counts[n] > MOST_UNKNOWN || size.width * size.height > MOST_PIXELS),
        blocks = (inBlocks ? blocksOf(size) : [{ x: 0, y: 0, ...sizeOf(size) }]).filter((block) =>
          hasUnknown(whole?.unknown ?? open, size.width, block),
        )
      const common: LevelToSolve = {
        n,
        coarser: n < levels.length ? levelSeenByAll(levels[n], crew) : null,
        whole: whole && levelSeenByAll(whole, crew),
        finest: { part, open, bytes },
        learnt,
        hold,
        margin: inBlocks ? MARGIN : 0,
        rounds: roundsFor(counts[n]),
      }
      if (blocks.length > 1) crew.share(solveBlocks, common, blocks, report)
      else if (blocks.length) solveBlock(common)(blocks[0], report)
      if (whole && common.whole !== whole) whole.alpha.set(common.whole!.alpha)
      done += counts[n]
    }
    return learnt!
  }
  const copies = solvers.map((_, k) =>
      k === 0 ? levels : levels.map((level) => ({ ...level, alpha: level.alpha.slice() })),
    ),
    finest = solvers.map((_, k) => (k === 0 ? bytes : bytes.slice()))
  const learnt = solvers.map((by, k) => solve(copies[k], finest[k], by, undefined, levels.length, last))
  if (solvers.length > 1) {
    const level = last > 0 ? levels[last - 1] : levelOf(part, open, bytes, { x: 0, y: 0, ...sizeOf(part) }),
      share = shareOfSamples(level, () => check(done / work)),
      one: Float32Array | Uint8Array = last > 0 ? levels[last - 1].alpha : bytes,
      other = last > 0 ? copies[1][last - 1].alpha : finest[1]
    for (let i = 0; i < one.length; i++) if (level.unknown[i]) one[i] += share[i] * (other[i] - one[i])
  }
  if (last > 0) solve(levels, bytes, solvers[0], learnt[0], last - 1, 0)
  for (let y = 0; y < box.height; y++)
    matte.data.set(bytes.subarray(y * box.width, (y + 1) * box.width), (box.y + y) * matte.width + box.x)
}

/** One level on its way. Blocks are independent of each other: what is unknown begins with what half the size says. */
interface LevelToSolve {
  /** 0 is full size. */
  readonly n: number
  readonly coarser: Level | null
  /** Absent at full size, where coverage is in bytes. */
  readonly whole: Level | undefined
  readonly finest: { readonly part: Picture; readonly open: Uint8Array; readonly bytes: Uint8Array }
  readonly learnt: Learnt
  readonly hold: Float32Array
  /** How far a block sees around itself, px. */
  readonly margin: number
  readonly rounds: number
}

export const solveBlocks: Task<LevelToSolve, Box> = {
  name: 'unknown coverage of blocks',
  begin: (level) => solveBlock(level),
}

function solveBlock({
  n,
  coarser,
  whole,
  finest: { part, open, bytes },
  learnt,
  hold,
  margin,
  rounds,
}: LevelToSolve): (block: Box, report?: (share: number) => void) => void {
  const size = sizeOf(whole?.picture ?? part),
    carry = coarser && carrier(coarser)
  return (block, report = () => {}) => {
    const seen = around(block, margin, size)!
    const level = whole
      ? {
          picture: cropPicture(whole.picture, seen),
          unknown: cropRows(whole.unknown, size.width, seen, new Uint8Array(seen.width * seen.height)),
          alpha: cropRows(whole.alpha, size.width, seen, new Float32Array(seen.width * seen.height)),
        }
      : levelOf(part, open, bytes, seen)
    carry?.(level, seen.x, seen.y)
    const hints = hintsFor(level, seen, n, learnt, hold)
    solveClosedForm(level, hints, rounds, report)
    if (n === 0) crisper(level, hints.precision)
    for (let y = block.y; y < block.y + block.height; y++)
      for (
        let x = block.x, i = y * size.width + x, j = (y - seen.y) * seen.width + x - seen.x;
        x < block.x + block.width;
        x++, i++, j++
      ) {
        if (!level.unknown[j]) continue
        if (whole) whole.alpha[i] = level.alpha[j]
        else bytes[i] = level.alpha[j] * 255 + 0.5
      }
  }
}

const levelSeenByAll = ({ picture, unknown, alpha }: Level, crew: Crew): Level => ({
  picture: { ...picture, data: seenByAll(crew, picture.data) },
  unknown: seenByAll(crew, unknown),
  alpha: seenByAll(crew, alpha),
})

function hasUnknown(unknown: Uint8Array, stride: number, { x, y, width, height }: Box): boolean {
  for (let row = y; row < y + height; row++)
    if (unknown.subarray(row * stride + x, row * stride + x + width).includes(1)) return true
  return false
}

const roundsFor = (count: number): number => Math.round(Math.min(MOST_ROUNDS, Math.max(LEAST_ROUNDS, WORK / count)))
const sizeOf = ({ width, height }: Size): Size => ({ width, height })
const sumOf = (mask: Uint8Array): number => {
  let sum = 0
  for (let i = 0; i < mask.length; i++) sum += mask[i]
  return sum
}

function around(box: Box | null, by: number, { width, height }: Size): Box | null {
  if (!box) return null
  const x = Math.max(0, box.x - by),
    y = Math.max(0, box.y - by)
  return {
    x,
    y,
    width: Math.min(width, box.x + box.width + by) - x,
    height: Math.min(height, box.y + box.height + by) - y,
  }
}

/** Of even sizes, so that threads have even shares. */
function blocksOf({ width, height }: Size): Box[] {
  const across = evenParts(width),
    down = evenParts(height)
  return down.flatMap(([y, height]) => across.map(([x, width]) => ({ x, y, width, height })))
}
function evenParts(length: number): [from: number, length: number][] {
  const count = Math.ceil(length / BLOCK),
    at = (k: number) => Math.round((k * length) / count)
  return Array.from({ length: count }, (_, k) => [at(k), at(k + 1) - at(k)])
}

/** A part of the first level; what is unknown there and not carried from anywhere begins in the middle. */
function levelOf(picture: Picture, open: Uint8Array, bytes: Uint8Array, box: Box): Level {
  const unknown = cropRows(open, picture.width, box, new Uint8Array(box.width * box.height)),
    coverage = cropRows(bytes, picture.width, box, new Uint8Array(unknown.length))
  const alpha = new Float32Array(unknown.length)
  for (let i = 0; i < alpha.length; i++) alpha[i] = unknown[i] ? 0.5 : coverage[i] / 255
  return { picture: cropPicture(picture, box), unknown, alpha }
}

/** What was learnt on a level; coverage by colour and how much it counts. */
interface Learnt {
  readonly level: number
  readonly local: LocalColours
  readonly hint: { readonly coverage: Float32Array; readonly weight: Float32Array }
}

function learn(level: Level, solver: Solver, report: (share: number) => void): Omit<Learnt, 'level'> {
  report(0)
  const local = localColours(level),
    weight = new Float32Array(level.alpha.length)
  if (solver === 'sampling') {
    const { coverage, sure } = sampledCoverage(level, () => report(0))
    for (let i = 0; i < weight.length; i++) weight[i] = SAMPLED_WEIGHT * sure[i]
    return { local, hint: { coverage, weight } }
  }
  for (let i = 0; i < weight.length; i++)
    weight[i] = (LOCAL_WEIGHT * Math.min(1, local.precision[i] / PRECISE) ** 2) / (1 + local.unexplained[i] / EXPLAINED)
  return { local, hint: { coverage: local.coverage, weight } }
}

/** How far the affine functions are held back on level n, for each pixel of the level that was learnt on. */
function holdOf({ level, local }: Learnt, n: number, noise: number): Float32Array {
  const shift = level - n
  return local.precision.map((precision, i) =>
    precision > 0
      ? PLAIN_HOLD *
        (Math.min(MOST_HOLD, Math.max(LEAST_HOLD, (HOLD * noise) / precision ** 2)) / PLAIN_HOLD) **
          Math.exp(-(local.away[i] << shift) / AWAY)
      : PLAIN_HOLD,
  )
}

/** For a part of level n, from what was learnt on that level or a coarser one; coverage is only believed on the level it was learnt on. */
function hintsFor(
  { picture: { width, height }, unknown }: Level,
  { x: left, y: top }: Box,
  n: number,
  { level, local, hint }: Learnt,
  hold: Float32Array,
): Hints & { precision: Float32Array } {
  const shift = level - n,
    epsilon = new Float32Array(width * height).fill(PLAIN_HOLD),
    belief = new Float32Array(epsilon.length),
    weight = new Float32Array(epsilon.length),
    precision = new Float32Array(epsilon.length)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, row = ((y + top) >> shift) * local.width; x < width; x++, i++) {
      if (!unknown[i]) continue
      const from = row + ((x + left) >> shift)
      precision[i] = local.precision[from]
      epsilon[i] = hold[from]
      if (shift === 0) {
        belief[i] = hint.coverage[from]
        weight[i] = hint.weight[from]
      }
    }
  return { epsilon, belief, weight, precision }
}
