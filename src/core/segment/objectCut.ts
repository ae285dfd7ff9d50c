/**
 * From a first guess to an outline: colours of subject and surroundings are learnt and the picture is cut, in turn, on a small level;
 * then the cut is carried to full size, level by level, deciding anew only what lies near the outline or speaks against it.
 * Sources: Rother, Kolmogorov and Blake, "GrabCut", SIGGRAPH 2004 (learning and cutting in turn); Lombaert, Sun, Grady and Xu,
 * "A multilevel banded graph cuts method for fast image segmentation", ICCV 2005 (the band at finer levels).
 */
import { withRoom } from '../kernels'
import { type Picture, type Size, words } from '../raster/picture'
import { cellOf, ColourEvidence } from './colourEvidence'
import { cutGrid, INSIDE, meanContrast, OUTSIDE } from './gridCut'
import { nearAny } from '../raster/nearAny'
import { type LabPlanes, labPlanes } from './labPlanes'
import { learnBoth, type Models, SAMPLES } from './learnColours'

/** Colours of a draft are learnt from about so many pixels. */
const DRAFT_SAMPLES = 2_000
/** What separating two alike neighbours costs on the small level, nats. */
const SMOOTHNESS = 7
/** How much the first guess goes on counting beside the colours, nats at most. */
const GUESS_WEIGHT = 2
/** Where the first guess changes sides. */
const GUESS_MIDDLE = 0.5
const ROUNDS = 4
/** When fewer than one pixel in so many changes sides, it has settled. */
const SETTLED = 500

/** What is decided on the level that is thought on. */
export interface SmallAnswer {
  /** INSIDE and OUTSIDE. */
  readonly state: Uint8Array
  readonly models: Models
  /** 1 where colours alone may not change a side. */
  readonly sure?: Uint8Array
  /** The state before its outline was looked at once more; absent: it was not. */
  readonly cut?: Uint8Array
}

/** What turns go on from: the state before its outline was looked at once more. */
export const cutOf = ({ state, cut }: SmallAnswer): Uint8Array => cut ?? state

export interface SmallCut {
  readonly lab: LabPlanes
  /** UNDECIDED, OUTSIDE or INSIDE as far as it is given. */
  readonly given: Uint8Array
  /** How probably each pixel is inside, 0-1, before anything is cut. */
  readonly guess: Float32Array
  /** How much a pixel that is given counts when colours are learnt, 0-1. */
  readonly weight: Float32Array
  /** Takes from each cut what cannot belong to it, in place, by what the colours say (nats). The first time there is more to come. */
  readonly tidy?: (state: Uint8Array, evidence: (pixel: number) => number, first: boolean) => void
  readonly smoothness?: number
  /** How much each pixel speaks for inside besides its colour, nats; instead of what the guess says. */
  readonly expected?: Float32Array
  /** Colours count only as far as they tell apart what the guess says: see `tellingApart`. */
  readonly doubtColours?: boolean
  /** How colours are learnt; by `learnThing` where a thing is asked for. */
  readonly learn?: typeof learnBoth
  /** A quick answer: colours are learnt once, from fewer pixels, and the picture is cut once. */
  readonly draft?: boolean
}

/** The cut on the small level, and the colours it was made by. */
export function cutSmall(
  {
    lab,
    given,
    guess,
    weight,
    tidy,
    smoothness = SMOOTHNESS,
    expected,
    doubtColours,
    learn = learnBoth,
    draft = false,
  }: SmallCut,
  check: (progress: number) => void,
): SmallAnswer {
  const { width, height } = lab,
    count = width * height,
    contrast = meanContrast(lab),
    rounds = draft ? 1 : ROUNDS,
    samples = draft ? DRAFT_SAMPLES : SAMPLES
  const inside = new Float32Array(count),
    outside = new Float32Array(count)
  let state = given.slice(),
    models: Models | undefined
  for (let round = 0; round < rounds; round++) {
    for (let i = 0; i < count; i++) {
      inside[i] = outside[i] = 0
      if (given[i] === OUTSIDE) outside[i] = weight[i]
      else if (given[i] === INSIDE) inside[i] = weight[i]
      else if (round === 0) {
        inside[i] = guess[i] ** 2
        outside[i] = (1 - guess[i]) ** 2
      } else if (state[i] === INSIDE) inside[i] = 1
      else outside[i] = 1
    }
    models = learn(lab, inside, outside, samples)
    const colours = new ColourEvidence(models.inside, models.outside)
    const next = given.slice(),
      evidence = (i: number) => colours.of(lab.words[i]),
      counts = doubtColours ? tellingApart(colours, lab.words, guess) : 1
    cutGrid(lab, {
      state: next,
      words: lab.words,
      contrast,
      smoothness,
      evidence: (from, n, out, at) => {
        colours.row(lab.words, from, n, out, at)
        for (let i = 0; i < n; i++)
          out[at + i] =
            counts * out[at + i] + (expected ? expected[from + i] : 2 * GUESS_WEIGHT * (guess[from + i] - GUESS_MIDDLE))
      },
    })
    if (tidy) {
      const cut = round === 0 ? next.slice() : null
      tidy(next, evidence, round === 0)
      // What is not of the first piece is left to its colours from here on.
      if (cut)
        guess = guess.map((value, i) =>
          cut[i] === INSIDE && next[i] !== INSIDE ? Math.min(value, GUESS_MIDDLE) : value,
        )
    }
    check((round + 1) / rounds)
    let changed = 0
    for (let i = 0; i < count; i++) if (next[i] !== state[i]) changed++
    state = next
    if (changed < count / SETTLED) break
  }
  return { state, models: models! }
}

/** Colours count in full when they alone are right so often, each side counting half; chance is a half. */
const TOLD = 0.8

/**
 * How much colours may count, 0-1, by how well they alone tell apart what is probably inside and what is not: where a thing looks like what is around it
 * they are as good as tossing a coin, and would lead the cut away from what is known.
 * Source: Brodersen, Ong, Stephan and Buhmann, "The balanced accuracy and its posterior distribution", ICPR 2010 (the measure).
 * @param guess how probably each pixel is inside, 0-1
 */
export function tellingApart(colours: ColourEvidence, pixels: Uint32Array, guess: Float32Array): number {
  let inside = 0,
    outside = 0,
    insideTold = 0,
    outsideTold = 0
  for (let i = 0, step = Math.max(1, Math.floor(guess.length / SAMPLES)); i < guess.length; i += step) {
    inside += guess[i]
    outside += 1 - guess[i]
    if (colours.of(pixels[i]) > 0) insideTold += guess[i]
    else outsideTold += 1 - guess[i]
  }
  if (!inside || !outside) return 1
  const right = (insideTold / inside + outsideTold / outside) / 2
  return Math.min(1, Math.max(0, (right - 0.5) / (TOLD - 0.5)))
}

/** At finer levels: how near the outline a pixel is decided anew, px; and how loudly its colour must speak against its side, nats. */
const BAND = 2,
  LOUD = 2.5
/** Smoothness at finer levels: thin things must not cost more than they are worth. */
const FINE_SMOOTHNESS = 2

export interface Refinement {
  /** Full size first; the last is the level `state` belongs to. */
  readonly levels: readonly Picture[]
  readonly models: Models
  /** What is given at a level, as `given` of the small cut; what is transparent is outside anyway. */
  readonly givenAt?: (level: number) => Uint8Array
  /** How far from the object on the small level (px of it) colours may speak against a side. */
  readonly reach?: number
  /** How loudly a colour must speak against its side to be heard away from the outline, nats. */
  readonly loud?: number
  /** What separating two alike neighbours costs, nats. */
  readonly smoothness?: number
  /** Of the small level: 1 where colours alone may not change a side. */
  readonly sure?: Uint8Array
}

/** Carries a cut of the small level to full size. @returns INSIDE and OUTSIDE for each pixel of the first level */
export function refine(
  small: Uint8Array,
  { levels, models, givenAt, reach = 8, loud = LOUD, smoothness = FINE_SMOOTHNESS, sure }: Refinement,
  check: (progress: number) => void,
): Uint8Array {
  const colours = new ColourEvidence(models.inside, models.outside),
    last = levels.length - 1,
    { width, height } = levels[last]
  const near = nearAny(small, (side) => side === INSIDE, width, height, reach)
  if (sure) for (let i = 0; i < near.length; i++) if (sure[i]) near[i] = 0
  let state = small
  for (let n = last - 1; n >= 0; n--) {
    const picture = levels[n],
      pixels = words(picture)
    state = reopened(state, levels[n + 1], picture, {
      colours,
      loud,
      near,
      across: width,
      shift: last - n,
      given: givenAt?.(n),
    })
    cutGrid(picture, {
      state,
      words: pixels,
      contrast: contrastOf(picture),
      smoothness,
      evidence: (from, n, out, at) => colours.row(pixels, from, n, out, at),
    })
    check(1 - n / Math.max(1, last))
  }
  return state
}

interface Reopening {
  readonly colours: ColourEvidence
  readonly loud: number
  /** Of the small level, `across` px wide, 2^shift times smaller. */ readonly near: Uint8Array
  readonly across: number
  readonly shift: number
  readonly given?: Uint8Array
}

/** A level's decisions from the coarser one's: undecided is what lies near the outline, and what its colour speaks against. */
function reopened(
  state: Uint8Array,
  coarse: Size,
  picture: Picture,
  { colours, loud, near, across, shift, given }: Reopening,
): Uint8Array {
  const { width, height } = picture,
    pixels = words(picture),
    count = width * height
  return withRoom((stack) => {
    const { run } = stack,
      from = stack.take(state.length + ROOM),
      to = stack.take(count + ROOM),
      nearAt = stack.take(near.length),
      tableAt = stack.take(colours.table.byteLength),
      wordsAt = stack.take(width * 4),
      givenAt = given && stack.take(count + ROOM)
    stack.bytes(from, state.length).set(state)
    stack.bytes(nearAt, near.length).set(near)
    run.doubleStates(from, coarse.width, to, width, height)
    run.openBand(from, coarse.width, coarse.height, to, width, height, BAND)
    const row = new Uint32Array(run.memory.buffer, wordsAt, width),
      table = stack.floats(tableAt, colours.table.length)
    table.set(colours.table)
    for (let y = 0; y < height; y++) {
      row.set(pixels.subarray(y * width, (y + 1) * width))
      for (
        let x = 0;
        (x = run.hearRow(wordsAt, x, width, to + y * width, tableAt, nearAt + (y >> shift) * across, shift, loud)) <
        width;
      )
        table[cellOf(row[x])] = colours.of(row[x])
    }
    if (given && givenAt) {
      stack.bytes(givenAt, count).set(given)
      run.giveStates(givenAt, to, count)
    }
    return stack.bytes(to, count).slice()
  })
}
/** Rows are worked on 32 px at a time: planes have room for what lies beyond their end, bytes. */
const ROOM = 32

/** Mean contrast of neighbours, from a share of the rows. */
function contrastOf(picture: Picture): number {
  const rows = Math.min(picture.height, 200),
    step = Math.floor(picture.height / rows),
    data = new Uint8ClampedArray(rows * picture.width * 4)
  for (let r = 0; r < rows; r++)
    data.set(
      picture.data.subarray(r * step * picture.width * 4, (r * step + 1) * picture.width * 4),
      r * picture.width * 4,
    )
  return meanContrast(labPlanes({ width: picture.width, height: rows, data }))
}
