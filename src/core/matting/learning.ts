/**
 * What the known pixels round about say of the unknown ones' colours: coverage as a hint beside the closed form, and how far its affine functions are held back.
 * Source: He, Rhemann, Rother, Tang and Sun, "A global sampling method for alpha matting", CVPR 2011, section 4 (sampled coverage as a data term of the closed form).
 */
import { type Solver } from '../fields/solver'
import { type Box } from '../raster/content'
import { bytesFor, type Crew, floatsFor, type Task } from '../parallel/crew'
import { type Rows, stripsOf } from '../parallel/strips'
import { type Scratch } from '../raster/scratch'
import { type Hints } from './closedForm'
import { type Level } from './level'
import { localColours, type LocalColours, roomForColours } from './localColours'
import { roomForSamples, sampledCoverage, type Samples, wayToKnown } from './sampling'

/** How far the affine functions are held back: by the grain's variance over the square of how well colours tell, within limits; less well known far away from what is known (px). */
const HOLD = 100,
  LEAST_HOLD = 1e-7,
  MOST_HOLD = 1e-5,
  PLAIN_HOLD = 3e-7,
  AWAY = 60
/** How much the hints count at most; local colours at this precision and explained this well; what the network expects half as much where colours tell this well. */
const LOCAL_WEIGHT = 0.003,
  SAMPLED_WEIGHT = 0.1,
  EXPECTED_WEIGHT = 0.01,
  TELLING = 10,
  PRECISE = 300,
  EXPLAINED = 4

/** How one solver learns. */
export type Learner = Exclude<Solver, 'auto'>

/** What was learnt on a level; coverage by colour and how much it counts. */
export interface Learnt {
  readonly level: number
  readonly local: LocalColours
  readonly hint: { readonly coverage: Float32Array; readonly weight: Float32Array }
}

/** What the known pixels of a level say by themselves; samples where they are asked for. */
export interface Told {
  readonly colours: LocalColours
  readonly samples: Samples | null
}
/** One thing that is to be told of the level of a number: samples of some rows. */
type Part = { readonly of: number; readonly rows?: Rows }

/** Rows sampled in one go. */
const ROWS = 64

/** What is told of each of several levels, which all of a crew see. */
export function tellOf(levels: readonly Level[], samples: boolean, crew: Crew, check: () => void): Told[] {
  const floats = (length: number) => floatsFor(crew, length),
    told = levels.map(({ picture }) => ({
      colours: roomForColours(picture, floats),
      samples: samples ? roomForSamples(picture, floats) : null,
    })),
    parts: Part[] = levels.map((_, of) => ({ of }))
  if (samples)
    levels.forEach(({ picture }, of) => {
      for (const rows of stripsOf(picture.height, ROWS)) parts.push({ of, rows })
    })
  const away = samples
    ? levels.map(({ picture, unknown }) => wayToKnown(unknown, picture, bytesFor(crew, unknown.length)))
    : []
  crew.share(tellParts, { levels, away, told }, parts, check)
  return told
}

interface ToTell {
  readonly levels: readonly Level[]
  /** How far it is to what is known on each. @see wayToKnown */
  readonly away: readonly Uint8Array[]
  readonly told: readonly Told[]
}

export const tellParts: Task<ToTell, Part> = {
  name: 'what known pixels say',
  begin:
    ({ levels, away, told }, check) =>
    ({ of, rows }) => {
      const { colours, samples } = told[of]
      if (rows) sampledCoverage(levels[of], away[of], samples!, rows.from, rows.to)
      else localColours(levels[of], colours, check)
    },
}

/** What one solver makes of that. */
export function learntBy(solver: Learner, level: number, { colours: local, samples }: Told): Learnt {
  const weight = new Float32Array(local.coverage.length)
  if (solver === 'sampling') {
    const { coverage, sure } = samples!
    for (let i = 0; i < weight.length; i++) weight[i] = SAMPLED_WEIGHT * sure[i]
    return { level, local, hint: { coverage, weight } }
  }
  for (let i = 0; i < weight.length; i++)
    weight[i] = (LOCAL_WEIGHT * Math.min(1, local.precision[i] / PRECISE) ** 2) / (1 + local.unexplained[i] / EXPLAINED)
  return { level, local, hint: { coverage: local.coverage, weight } }
}

/** How far the affine functions are held back on level n, for each pixel of the level that was learnt on. */
export function holdOf({ level, local }: Learnt, n: number, noise: number): Float32Array {
  const shift = level - n,
    { precision, away } = local,
    hold = new Float32Array(precision.length)
  for (let i = 0; i < hold.length; i++)
    hold[i] =
      precision[i] > 0
        ? PLAIN_HOLD *
          (Math.min(MOST_HOLD, Math.max(LEAST_HOLD, (HOLD * noise) / precision[i] ** 2)) / PLAIN_HOLD) **
            Math.exp(-(away[i] << shift) / AWAY)
        : PLAIN_HOLD
  return hold
}

/** For the unknown pixels of a part of level n, from what was learnt on that level or a coarser one; coverage is only believed on the level it was learnt on. */
export function hintsFor(
  { picture: { width, height }, unknown }: Level,
  { x: left, y: top }: Box,
  n: number,
  { level, local, hint }: Learnt,
  hold: Float32Array,
  room: Scratch,
): Hints & { precision: Float32Array } {
  const shift = level - n,
    count = width * height,
    epsilon = room.floats(count).fill(PLAIN_HOLD),
    belief = room.floats(count),
    weight = room.floats(count),
    precision = room.floats(count)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, row = ((y + top) >> shift) * local.width; x < width; x++, i++) {
      if (!unknown[i]) continue
      const from = row + ((x + left) >> shift)
      precision[i] = local.precision[from]
      epsilon[i] = hold[from]
      belief[i] = shift === 0 ? hint.coverage[from] : 0
      weight[i] = shift === 0 ? hint.weight[from] : 0
    }
  return { epsilon, belief, weight, precision }
}

/** Adds to the hints what the network expects, in place: the more, the less colours tell. */
export function expect(
  { belief, weight, precision }: Hints & { precision: Float32Array },
  coverage: Float32Array,
  unknown: Uint8Array,
): void {
  for (let i = 0; i < coverage.length; i++) {
    if (!unknown[i]) continue
    const more = EXPECTED_WEIGHT / (1 + (precision[i] / TELLING) ** 2),
      sum = weight[i] + more
    belief[i] = (weight[i] * belief[i] + more * coverage[i]) / sum
    weight[i] = sum
  }
}
