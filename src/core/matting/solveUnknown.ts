/**
 * Solves the unknown part of a matte, coarse to fine: each level begins with what half the size says, carried over by the picture's own
 * colours, and is solved in closed form. What the known pixels round about say of a pixel's colour is a hint beside that, taken from
 * local Gaussians (closedForm), from pairs of samples (sampling), or from both, put together by how far each is to be relied on (auto).
 */
import { type Solver } from '../fields/solver'
import { type Box } from '../raster/content'
import { cropRows } from '../raster/crop'
import { type Matte, type Picture, type Size } from '../raster/picture'
import { boundsOf } from '../raster/tally'
import { alone, type Crew, seenByAll } from '../parallel/crew'
import { around, blocksOf, type Finest, levelOf, type LevelToSolve, solveBlock, solveBlocks } from './blocks'
import { expectedCoverage, type Known, looksAt } from './expectedCoverage'
import { halved, type Level } from './level'
import { holdOf, learn, type Learner, type Learnt } from './learning'
import { noiseOf } from './noise'
import { shareOfSamples } from './reliance'

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

export interface Work {
  /** Called with the progress, 0-1; throws to stop. */ readonly check: (progress: number) => void
  readonly crew?: Crew
  /** False: without the network. */ readonly network?: boolean
}

/** Solves, in place, where `unknown` is 1; everything else of `matte` is taken as known. Sizes are the picture's. Throws what `check` throws, and has then changed nothing. */
export function solveUnknown(
  picture: Picture,
  matte: Matte,
  unknown: Uint8Array,
  solver: Solver,
  { check, crew = alone, network = true }: Work,
): void {
  const box = around(boundsOf({ ...picture, data: unknown }), CONTEXT, picture)
  if (!box) return
  const learners: readonly Learner[] = solver === 'auto' ? ['closedForm', 'sampling'] : [solver],
    asked = solver === 'auto' && network,
    pyramid = pyramidOf(picture, matte, unknown, box, crew),
    { counts, finest } = pyramid,
    coarsest = counts.length - 1
  // Colours are learnt anew on each level that is small enough; finer ones use what the last of those said.
  let last = coarsest
  while (last > 0 && learnsOn(pyramid, last - 1)) last--
  const work = counts.reduce((sum, count, n) => sum + (n >= last ? learners.length : 1) * count, 0)
  const expected = asked ? expectedOf(pyramid, (share) => check(LOOKING * share), crew) : null,
    begin = asked ? LOOKING : 0
  let done = 0
  const say = (amount: number) => check(begin + (1 - begin) * Math.min(1, amount / work)),
    progress = {
      of: (n: number) => (share: number) => say(done + share * counts[n]),
      solved: (n: number) => (done += counts[n]),
    }
  const copies = learners.map((_, k) => (k === 0 ? pyramid : copyOf(pyramid))),
    learnt = learners.map((by, k) => solveLevels(copies[k], coarsest, last, by, undefined, expected, progress, crew))
  if (learners.length > 1) putTogether(copies[0], copies[1], last, () => say(done))
  if (last > 0) solveLevels(pyramid, last - 1, 0, learners[0], learnt[0], expected, progress, crew)
  for (let y = 0; y < box.height; y++)
    matte.data.set(finest.bytes.subarray(y * box.width, (y + 1) * box.width), (box.y + y) * matte.width + box.x)
}

/** What is being solved, at full size and at coarser ones. */
interface Pyramid {
  /** Full size, worked on in parts; coverage is in bytes. */ readonly finest: Finest
  /** Level n is the (n − 1)th here; level 0 is full size. */ readonly coarser: readonly Level[]
  /** Unknown pixels on each level. */ readonly counts: readonly number[]
}

function pyramidOf(picture: Picture, matte: Matte, unknown: Uint8Array, box: Box, crew: Crew): Pyramid {
  const room = box.width * box.height,
    part: Picture = {
      width: box.width,
      height: box.height,
      data: cropRows(picture.data, picture.width, box, new Uint8ClampedArray(crew.allocate(room * 4), 0, room * 4), 4),
    },
    open = cropRows(unknown, picture.width, box, new Uint8Array(crew.allocate(room), 0, room)),
    bytes = cropRows(matte.data, matte.width, box, new Uint8Array(crew.allocate(room), 0, room))
  const coarser: Level[] = [],
    counts = [sumOf(open)]
  for (let n = 0; counts[n] > FEW; n++) {
    const last = coarser.at(-1)
    coarser.push(last ? halved(last.picture, last.unknown, last.alpha, 1) : halved(part, open, bytes, 255))
    counts.push(sumOf(coarser[n].unknown))
    if (counts[n + 1] >= counts[n]) break
  }
  return { finest: { part, open, bytes }, coarser, counts }
}

/** What the network expects, on the finest level it sees in so many looks. */
interface Expected {
  readonly n: number
  readonly coverage: Float32Array
}
const MOST_LOOKS = 24
/** The share of the work that goes into looking, as it is told. */
const LOOKING = 0.2

function expectedOf({ finest, coarser }: Pyramid, check: (share: number) => void, crew: Crew): Expected {
  const levels = [{ picture: finest.part, unknown: finest.open }, ...coarser],
    looks = levels.map(({ picture, unknown }) => looksAt(unknown, picture)),
    few = looks.findIndex((all) => all.length <= MOST_LOOKS),
    n = few < 0 ? coarser.length : few
  const level = n > 0 ? levelSeenByAll(coarser[n - 1], crew) : null,
    known: Known = level
      ? { picture: level.picture, unknown: level.unknown, coverage: level.alpha, full: 1 }
      : { picture: finest.part, unknown: finest.open, coverage: finest.bytes, full: 255 }
  return { n, coverage: expectedCoverage(known, looks[n], check, crew) }
}

/** The same with coverage of its own. */
const copyOf = ({ finest, coarser, ...rest }: Pyramid): Pyramid => ({
  finest: { ...finest, bytes: finest.bytes.slice() },
  coarser: coarser.map((level) => ({ ...level, alpha: level.alpha.slice() })),
  ...rest,
})

/** A level in one piece. */
const wholeLevel = ({ finest, coarser }: Pyramid, n: number): Level =>
  n > 0 ? coarser[n - 1] : levelOf(finest, { x: 0, y: 0, ...sizeOf(finest.part) })

function learnsOn({ finest, coarser }: Pyramid, n: number): boolean {
  const { width, height } = n > 0 ? coarser[n - 1].picture : finest.part
  return width * height <= (n > 0 || coarser.length === 0 ? LEARN_PIXELS : LEARN_PIXELS / 4)
}

interface Progress {
  /** Says what share of a level is solved. */ readonly of: (n: number) => (share: number) => void
  readonly solved: (n: number) => void
}

/** Solves from one level to another, coarse to fine. @returns what was learnt last */
function solveLevels(
  pyramid: Pyramid,
  from: number,
  to: number,
  by: Learner,
  learnt: Learnt | undefined,
  expected: Expected | null,
  progress: Progress,
  crew: Crew,
): Learnt {
  const { finest, coarser, counts } = pyramid
  for (let n = from; n >= to; n--) {
    const whole: Level | undefined = n > 0 ? coarser[n - 1] : undefined,
      { picture, unknown } = whole ?? { picture: finest.part, unknown: finest.open },
      report = progress.of(n)
    if (!learnt || learnsOn(pyramid, n)) learnt = { level: n, ...learn(wholeLevel(pyramid, n), by, report) }
    const { blocks, margin } = blocksOf(picture, unknown, n < coarser.length ? counts[n] : 0)
    const common: LevelToSolve = {
      n,
      coarser: n < coarser.length ? levelSeenByAll(coarser[n], crew) : null,
      whole: whole && levelSeenByAll(whole, crew),
      finest,
      learnt,
      hold: holdOf(learnt, n, noiseOf(picture, unknown)),
      margin,
      rounds: roundsFor(counts[n]),
      expected: expected?.n === n ? expected.coverage : null,
    }
    if (blocks.length > 1) crew.share(solveBlocks, common, blocks, report)
    else if (blocks.length) solveBlock(common)(blocks[0], report)
    if (whole && common.whole !== whole) whole.alpha.set(common.whole!.alpha)
    progress.solved(n)
  }
  return learnt!
}

/** Both answers on a level, the second (by samples) as far as it is to be relied on. */
function putTogether(one: Pyramid, other: Pyramid, n: number, report: () => void): void {
  const share = shareOfSamples(wholeLevel(one, n), report),
    coverage = ({ finest, coarser }: Pyramid) => (n > 0 ? coarser[n - 1].alpha : finest.bytes),
    unknown = n > 0 ? one.coarser[n - 1].unknown : one.finest.open,
    to = coverage(one),
    from = coverage(other)
  for (let i = 0; i < to.length; i++) if (unknown[i]) to[i] += share[i] * (from[i] - to[i])
}

const levelSeenByAll = ({ picture, unknown, alpha }: Level, crew: Crew): Level => ({
  picture: { ...picture, data: seenByAll(crew, picture.data) },
  unknown: seenByAll(crew, unknown),
  alpha: seenByAll(crew, alpha),
})

const roundsFor = (count: number): number => Math.round(Math.min(MOST_ROUNDS, Math.max(LEAST_ROUNDS, WORK / count)))
const sizeOf = ({ width, height }: Size): Size => ({ width, height })
const sumOf = (mask: Uint8Array): number => {
  let sum = 0
  for (let i = 0; i < mask.length; i++) sum += mask[i]
  return sum
}
