/**
 * Solves the unknown part of a matte, coarse to fine: each level begins with what half the size says, carried over by the picture's own
 * colours, and is solved in closed form. What the known pixels round about say of a pixel's colour is a hint beside that, taken from
 * local Gaussians (closedForm), from pairs of samples (sampling), or from both, put together by how far each is to be relied on (auto).
 */
import { type Solver } from '../fields/solver'
import { type Matte, type Picture } from '../raster/picture'
import { around } from '../raster/bounds'
import { boundsOf } from '../raster/tally'
import { alone, type Crew, seenByAll, type Task } from '../parallel/crew'
import { type Box } from '../raster/content'
import { Scratch } from '../raster/scratch'
import { blocksOf, type LevelToSolve, solveBlock, solveBlocks } from './blocks'
import { expectedCoverage, fewLooksAt, type Known, looksAt } from '../network/expectedCoverage'
import { type Level } from './level'
import { holdOf, type Learner, type Learnt, learntBy, tellOf } from './learning'
import { noiseOf } from './noise'
import { copyOf, type Pyramid, pyramidOf, sizeAt, wholeLevel } from './pyramid'
import { shareOfSamples, triedAround } from './reliance'

/** What is known is looked at so far around the unknown pixels, px. */
export const CONTEXT = 96
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
  const bounds = boundsOf({ ...picture, data: unknown })
  if (!bounds) return
  const box = around(bounds, CONTEXT, picture),
    learners: readonly Learner[] = solver === 'auto' ? ['closedForm', 'sampling'] : [solver],
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
    stop = () => say(done)
  const levels = Array.from({ length: coarsest + 1 - last }, (_, k) => seenByCrew(wholeLevel(pyramid, last + k), crew)),
    tried = learners.length > 1 ? seenByCrew(triedAround(levels[0]), crew) : null,
    told = tellOf(tried ? [...levels, tried] : levels, learners.includes('sampling'), crew, stop),
    learnt = learners.map((by) => levels.map((_, k) => learntBy(by, last + k, told[k])))
  if (tried) {
    const both = [pyramid, copyOf(pyramid, crew)]
    for (let n = coarsest; n >= last; n--) {
      const noise = noiseOn(pyramid, n),
        levels = both.map((one, by) => levelToSolve(one, n, learnt[by][n - last], noise, expected)),
        blocks = levels[0].blocks.flatMap((block) => [0, 1].map((by) => ({ by, block })))
      crew.share(solveByLearners, levels, blocks, stop)
      done += 2 * counts[n]
    }
    const { colours, samples } = told.at(-1)!
    putTogether(both[0], both[1], last, shareOfSamples(levels[0], tried, colours.coverage, samples!.coverage))
    stop()
  }
  for (let n = tried ? last - 1 : coarsest; n >= 0; n--) {
    const { blocks, ...level } = levelToSolve(
        pyramid,
        n,
        learnt[0][Math.max(0, n - last)],
        noiseOn(pyramid, n),
        expected,
      ),
      report = (share: number) => say(done + share * counts[n])
    if (blocks.length > 1) crew.share(solveBlocks, level, blocks, report)
    else if (blocks.length) solveBlock(level, blocks[0], new Scratch(), report)
    done += counts[n]
  }
  for (let y = 0; y < box.height; y++)
    matte.data.set(finest.bytes.subarray(y * box.width, (y + 1) * box.width), (box.y + y) * matte.width + box.x)
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
  const levels: Known[] = [
    { picture: finest.part, unknown: finest.open, coverage: finest.bytes, full: 255 },
    ...coarser.map(({ picture, unknown, alpha }) => ({ picture, unknown, coverage: alpha, full: 1 })),
  ]
  for (let n = 0; n < coarser.length; n++) {
    const { unknown, picture } = levels[n],
      looks = fewLooksAt(unknown, picture, MOST_LOOKS)
    if (looks) return { n, coverage: expectedCoverage(levels[n], looks, check, crew) }
  }
  const coarsest = levels[coarser.length],
    looks = looksAt(coarsest.unknown, coarsest.picture)
  return { n: coarser.length, coverage: expectedCoverage(coarsest, looks, check, crew) }
}

function learnsOn(pyramid: Pyramid, n: number): boolean {
  const { width, height } = sizeAt(pyramid, n)
  return width * height <= (n > 0 || pyramid.coarser.length === 0 ? LEARN_PIXELS : LEARN_PIXELS / 4)
}

/** A coarse level, by each learner for itself: a piece is a block by the learner of a number. */
export const solveByLearners: Task<readonly LevelToSolve[], { readonly by: number; readonly block: Box }> = {
  name: 'unknown coverage by learners',
  begin: (levels) => {
    const scratch = new Scratch()
    return ({ by, block }) => solveBlock(levels[by], block, scratch.begin())
  },
}

const shownOn = (
  { finest, coarser }: Pick<Pyramid, 'finest' | 'coarser'>,
  n: number,
): Pick<Level, 'picture' | 'unknown'> => (n > 0 ? coarser[n - 1] : { picture: finest.part, unknown: finest.open })
/** Of its grain where it is unknown. @see noiseOf */
function noiseOn(pyramid: Pyramid, n: number): number {
  const { picture, unknown } = shownOn(pyramid, n)
  return noiseOf(picture, unknown, pyramid.counts[n])
}

/** One level, from what the coarser one says. */
function levelToSolve(
  { finest, coarser, counts }: Pyramid,
  n: number,
  learnt: Learnt,
  noise: number,
  expected: Expected | null,
): LevelToSolve & { readonly blocks: readonly Box[] } {
  const whole: Level | undefined = n > 0 ? coarser[n - 1] : undefined,
    { picture, unknown } = shownOn({ finest, coarser }, n)
  const { blocks, margin } = blocksOf(picture, unknown, n < coarser.length ? counts[n] : 0)
  return {
    blocks,
    n,
    coarser: coarser[n] ?? null,
    whole,
    finest,
    learnt,
    hold: holdOf(learnt, n, noise),
    margin,
    rounds: roundsFor(counts[n]),
    expected: expected?.n === n ? expected.coverage : null,
  }
}

/** Both answers on a level, the second (by samples) as far as it is to be relied on. */
function putTogether(one: Pyramid, other: Pyramid, n: number, share: Float32Array): void {
  const coverage = ({ finest, coarser }: Pyramid) => (n > 0 ? coarser[n - 1].alpha : finest.bytes),
    unknown = n > 0 ? one.coarser[n - 1].unknown : one.finest.open,
    to = coverage(one),
    from = coverage(other)
  for (let i = 0; i < to.length; i++) if (unknown[i]) to[i] += share[i] * (from[i] - to[i])
}

const seenByCrew = ({ picture, unknown, alpha }: Level, crew: Crew): Level => ({
  picture: { ...picture, data: seenByAll(crew, picture.data) },
  unknown: seenByAll(crew, unknown),
  alpha: seenByAll(crew, alpha),
})

const roundsFor = (count: number): number => Math.round(Math.min(MOST_ROUNDS, Math.max(LEAST_ROUNDS, WORK / count)))
