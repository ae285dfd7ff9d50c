/**
 * Marks: what is kept, what is dropped, what is unsure. From the marked places colours and reach decide everywhere else, then the cut along edges.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Price, Morse and Cohen, "Geodesic graph cut for interactive
 * image segmentation", CVPR 2010 (reach from the marks beside their colours).
 */
import { marks as marksStep, type MarksFields, marksUntil, someIn, turnsOf } from '../steps/marks'
import { solveUnknown, type Work } from '../matting/solveUnknown'
import { emptyMatte, type Matte, type Size } from '../raster/picture'
import { INSIDE, OUTSIDE, UNDECIDED } from '../segment/gridCut'
import { type Hints } from '../network/likelihood'
import { THINGS_VERSION } from '../network/network'
import { boundsOfPoints } from '../segment/bounds'
import { lengthOf, placesAlong } from '../segment/expectation'
import { cutFromMarks } from '../segment/cutFromMarks'
import { cutFromOutline, fillLoop, frameOf } from '../segment/cutFromOutline'
import { refine, type SmallAnswer } from '../segment/objectCut'
import { draftMatte, placed, stateToMatte } from '../segment/softEdge'
import { coverMarks } from '../segment/strokes'
import { finerView, type Sample, type SegmentView, segmentView, wholeOf } from '../segment/view'
import { type Mark } from '../fields/marks'
import { type Box } from '../raster/content'
import { nearestSetPixels } from '../raster/distance'
import { type Point } from '../vector/fill'
import { type Context, type Finder, type Found, type Scene } from './finder'

/** How much a px of the picture's border drops what it touches, beside a px of boundary. */
const BORDER = 0.005

export const marks: Finder<'marks', MarksFields> = {
  ...marksStep,
  /** One more than the weights: an outline alone is cut as a rough box is, and only what lies around it is looked at. */
  version: THINGS_VERSION + 1,
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    if (!params.keep.length && !params.outline) return nothing('nothing is marked to be kept yet')
    const coarse = segmentView(scene, params.sample, context, frameFor(params, scene)),
      view = context.draft ? coarse : finerView(coarse, context),
      last = view.levels.length - 1
    let contradictory = false
    const given = (level: number): Uint8Array => {
      const made = givenBy(params, view, level)
      contradictory ||= made.contradictory
      return made.state
    }
    if (!given(last).includes(INSIDE) && !params.outline) return nothing('the keep marks lie outside the picture')
    context.check(0.05)
    const small = decided(scene, params, view, context)
    if (!small) return nothing('the outline leaves nothing around it to tell the thing from: leave some space')
    if (context.draft) return draftMatte(small.state, view, scene)
    const { frame, levels } = view,
      full = refine(small.state, { ...small, levels, givenAt: given }, (p) => context.check(0.6 + 0.35 * p)),
      matte = stateToMatte(full, { ...view, frame: wholeOf(frame) }, frame, true)
    if (params.unsure.some((stroke) => stroke.points.length))
      solveUnsure(matte, view, params, given(0), { ...context, check: (p) => context.check(0.95 + 0.05 * p) })
    return {
      ...placed(matte, frame, scene),
      ...(contradictory ? { note: 'Keep and drop marks lie over each other in places: there keep counts.' } : {}),
    }
  },
}

/** What is looked at: what lies around an outline and the keep marks, or everything. */
function frameFor({ outline, keep }: MarksFields, size: Size): Box {
  return (isLoop(outline) && frameOf([...outline, ...keep.flatMap(({ points }) => points)], size)) || wholeOf(size)
}

const isLoop = (outline: MarksFields['outline']): outline is readonly Point[] => (outline?.length ?? 0) > 2

/**
 * What the marks decide on the level that is thought on, turn by turn: a keep mark that is set where something is missing only adds to what there is, a
 * drop mark only takes away. Each turn's answer is remembered, so that the next mark has one more to find. Undefined where nothing can be told.
 */
function decided(
  scene: Scene,
  params: MarksFields & { readonly sample: Sample },
  view: SegmentView,
  { memory, check, draft, network }: Context,
): SmallAnswer | undefined {
  const { frame, levels } = view,
    what = [scene.identity(params.sample), Object.values(frame), levels.length, draft, network].join(' '),
    turns = turnsOf(params),
    by = (turn: number) => ({ keep: marksUntil(params.keep, turn), drop: marksUntil(params.drop, turn) }),
    keyOf = ({ keep, drop }: Pick<MarksFields, 'keep' | 'drop'>) =>
      `marks ${what} ${JSON.stringify([keep, drop, params.outline])}`
  let now: SmallAnswer | undefined,
    n = turns.length
  while (n > 0 && !(now = memory.get<SmallAnswer>(keyOf(by(turns[n - 1]))))) n--
  for (; n < turns.length; n++) {
    const turn = turns[n],
      marked = by(turn),
      before = now,
      work = { network, draft, check: (p: number) => check(0.05 + (0.55 * (n + p)) / turns.length) }
    const made = before
      ? correctedBy(marked, turn, before, params, view, work)
      : firstAnswer({ ...params, ...marked }, view, work)
    if (!made) continue
    now = made
    const key = keyOf(marked)
    memory.set(key, now, 2 * (now.state.length + key.length))
  }
  return now
}

interface Thought {
  readonly network?: boolean
  readonly draft?: boolean
  readonly check: (progress: number) => void
}

/** What marks decide together; undefined where there is nothing to tell the thing by. */
function firstAnswer(marks: MarksFields, view: SegmentView, work: Thought): SmallAnswer | undefined {
  const { outline } = marks,
    start = givenBy(marks, view, view.levels.length - 1).state
  if (!start.includes(INSIDE)) return (isLoop(outline) && cutFromOutline(view, start, outline, work)) || undefined
  return cutFromMarks(
    view,
    { start, border: BORDER, hints: work.network === false ? undefined : hintsOf(marks), draft: work.draft },
    work.check,
  )
}

/** What all marks up to a turn decide, as far as those of the turn may change what there was: keep marks alone add, drop marks alone take away. */
function correctedBy(
  { keep, drop }: Pick<MarksFields, 'keep' | 'drop'>,
  turn: number,
  before: SmallAnswer,
  params: MarksFields,
  view: SegmentView,
  work: Thought,
): SmallAnswer | undefined {
  // The middle of what was found within an outline counts as kept, too.
  const marks = {
      ...params,
      drop,
      keep: isLoop(params.outline) ? [...keep, ...deepest(before.state, drop, view)] : keep,
    },
    answer = firstAnswer(marks, view, work),
    adds = someIn(keep, turn)
  if (!answer || adds === someIn(drop, turn)) return answer
  const given = givenBy(marks, view, view.levels.length - 1).state,
    may = adds ? INSIDE : OUTSIDE,
    state = answer.state.map((side, i) => (given[i] === UNDECIDED && side !== may ? before.state[i] : side))
  return { ...answer, state, sure: answer.sure?.map((one, i) => (state[i] === answer.state[i] ? one : 0)) }
}

/** A mark in the middle of where an answer is widest, away from what is dropped; none where it is empty, or everything. */
function deepest(state: Uint8Array, drop: readonly Mark[], { levels, frame }: SegmentView): Mark[] {
  const level = levels.length - 1,
    { width, height } = levels[level],
    dropped = coverMarks(drop, frame, level, levels[level]).data
  let most = 0,
    at = -1
  nearestSetPixels(
    state.map((side, i) => (side === INSIDE && dropped[i] < 128 ? 0 : 1)),
    { width, height },
    Math.max(width, height),
    (y, nearest) => {
      for (let x = 0; x < width; x++) {
        const n = nearest[x],
          depth = Math.hypot(x - (n % width), y - Math.floor(n / width))
        if (n >= 0 && depth > most) {
          most = depth
          at = y * width + x
        }
      }
    },
  )
  if (at < 0) return []
  const scale = 2 ** level,
    place = [frame.x + ((at % width) + 0.5) * scale, frame.y + (Math.floor(at / width) + 0.5) * scale] as const
  return [{ points: [place], size: most * scale }]
}

/** A stroke is shown to the network as so many places at most: it was taught by places. */
const PLACES = 4

function hintsOf({ keep, drop, outline }: MarksFields): Hints {
  const places = (marks: MarksFields['keep']) =>
    marks.flatMap(({ points, size }) => placesAlong(points, Math.max(size, lengthOf(points) / PLACES)))
  return {
    keep: places(keep),
    drop: places(drop),
    ...(isLoop(outline) ? { box: boundsOfPoints(outline) } : {}),
  }
}

/** What unsure marks cover is solved as a matte, from what was decided around it. */
function solveUnsure(
  matte: Matte,
  { frame, levels: [picture] }: SegmentView,
  { unsure, solver }: MarksFields,
  given: Uint8Array,
  work: Work,
): void {
  const open = coverMarks(unsure, frame, 0, picture).data
  solveUnknown(
    picture,
    matte,
    open.map((c, i) => (c >= 128 && given[i] === UNDECIDED ? 1 : 0)),
    solver,
    work,
  )
}

function givenBy(
  { keep, drop, outline }: MarksFields,
  view: SegmentView,
  level: number,
): { state: Uint8Array; contradictory: boolean } {
  const { frame } = view,
    picture = view.levels[level],
    inside = coverMarks(keep, frame, level, picture).data,
    outside = coverMarks(drop, frame, level, picture).data
  const within = isLoop(outline) ? fillLoop(view, outline, level) : null
  const state = new Uint8Array(inside.length)
  let contradictory = false
  for (let i = 0; i < state.length; i++) {
    if (inside[i] >= 128) {
      state[i] = INSIDE
      if (outside[i] >= 128) contradictory = true
    } else if (outside[i] >= 128 || (within && within[i] < 128) || picture.data[4 * i + 3] < 128) state[i] = OUTSIDE
  }
  return { state, contradictory }
}
