/**
 * What marks decide, turn by turn: those of the first decide together, those of a later turn correct what was there before.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Xu, Price, Cohen, Yang and Huang, CVPR 2016 (clicks that correct).
 */
import { type Mark } from '../fields/marks'
import { type Hints } from '../network/likelihood'
import { nearestSetPixels } from '../raster/distance'
import { nearAny } from '../raster/nearAny'
import { type MarksFields, marksUntil, someIn, turnsOf } from '../steps/marks'
import { type Point } from '../vector/fill'
import { boundsOfPoints } from '../raster/bounds'
import { carryChange } from './carryChange'
import { cutFromMarks } from './cutFromMarks'
import { cutFromOutline, fillLoop } from './cutFromOutline'
import { lengthOf, placesAlong } from './expectation'
import { INSIDE, OUTSIDE, UNDECIDED } from './gridCut'
import { refine, type SmallAnswer } from './objectCut'
import { packed, type PackedState, unpacked } from './packedState'
import { coverMarks } from './strokes'
import { type Memory } from '../cache/lruCache'
import { type SegmentView } from './view'

/** How much a px of the picture's border drops what it touches, beside a px of boundary. */
const BORDER = 0.005

export const isLoop = (outline: MarksFields['outline']): outline is readonly Point[] => (outline?.length ?? 0) > 2

/** What marks up to a turn come to. */
interface Answer {
  readonly small: SmallAnswer
  /** At full size; a draft has none. */
  readonly full?: PackedState
}

interface Work {
  readonly memory: Memory
  /** False: without the network. */ readonly network?: boolean
  /** A quick answer, on the level that is thought on. */ readonly draft?: boolean
  readonly check: (progress: number) => void
}

/**
 * A keep mark that is set where something is missing only adds to what there is, a drop mark only takes away; and far from where the level that is
 * thought on changed, nothing changes at full size. Each turn's answer is remembered, so that the next mark has one more to find.
 * @param marks the first of them at least keeps something, or there is an outline @param what tells the view from others
 * @returns INSIDE and OUTSIDE: of the small level for a draft, else at full size; null where nothing can be told
 */
export function decideInTurn(marks: MarksFields, view: SegmentView, what: string, work: Work): Uint8Array | null {
  const turns = turnsOf(marks),
    by = (turn: number) => ({ ...marks, keep: marksUntil(marks.keep, turn), drop: marksUntil(marks.drop, turn) }),
    keyOf = ({ keep, drop, outline }: MarksFields) =>
      `marks ${what} ${work.draft} ${work.network} ${JSON.stringify([keep, drop, outline])}`
  let now: Answer | undefined,
    n = turns.length
  while (n > 0 && !(now = work.memory.get<Answer>(keyOf(by(turns[n - 1]))))) n--
  for (; n < turns.length; n++) {
    const marked = by(turns[n]),
      made = answered(marked, turns[n], now, view, { ...work, check: (p) => work.check((n + p) / turns.length) })
    if (!made) continue
    now = made
    const key = keyOf(marked)
    work.memory.set(key, now, 2 * (now.small.state.length + key.length) + (now.full?.bits.length ?? 0))
  }
  return now ? (now.full ? unpacked(now.full) : now.small.state) : null
}

function answered(
  marks: MarksFields,
  turn: number,
  before: Answer | undefined,
  view: SegmentView,
  work: Work,
): Answer | undefined {
  const thinking = { ...work, check: (p: number) => work.check(0.6 * p) },
    carrying = (p: number) => work.check(0.6 + 0.4 * p),
    small = before ? correctedBy(marks, turn, before.small, view, thinking) : firstAnswer(marks, view, thinking)
  if (!small || work.draft) return small && { small }
  const givenIn = (part: SegmentView, level: number) => givenBy(marks, part, level).state,
    full = before?.full
      ? carryChange(
          {
            small,
            near: changedNear(small.state, before.small.state, marks, turn, view),
            there: unpacked(before.full),
            may: mayBecome(marks, turn),
            givenIn,
          },
          view,
          carrying,
        )
      : refine(small.state, { ...small, levels: view.levels, givenAt: (level) => givenIn(view, level) }, carrying)
  return { small, full: packed(full) }
}

/** What marks decide together; undefined where there is nothing to tell the thing by. */
function firstAnswer(marks: MarksFields, view: SegmentView, work: Work): SmallAnswer | undefined {
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
  marks: MarksFields,
  turn: number,
  before: SmallAnswer,
  view: SegmentView,
  work: Work,
): SmallAnswer | undefined {
  // The middle of what was found within an outline counts as kept, too.
  const { keep, drop, outline } = marks,
    kept = isLoop(outline) ? { ...marks, keep: [...keep, ...deepest(before.state, drop, view)] } : marks,
    answer = firstAnswer(kept, view, work)
  if (!answer) return undefined
  const given = givenBy(kept, view, view.levels.length - 1).state,
    may = mayBecome(marks, turn),
    state =
      may === undefined
        ? answer.state
        : answer.state.map((side, i) => (given[i] === UNDECIDED && side !== may ? before.state[i] : side))
  return { ...answer, state, sure: answer.sure?.map((one, i) => (state[i] === answer.state[i] ? one : 0)) }
}

/** The only side a turn may change what is not marked to: keep marks alone add, drop marks alone take away. */
function mayBecome({ keep, drop }: MarksFields, turn: number): number | undefined {
  const adds = someIn(keep, turn)
  return adds === someIn(drop, turn) ? undefined : adds ? INSIDE : OUTSIDE
}

/** How far around what changed on the small level it is decided anew at full size, px of that level. */
const AROUND = 4

/** 1 near where a turn changed the small level, or was marked. */
function changedNear(
  after: Uint8Array,
  before: Uint8Array,
  { keep, drop }: MarksFields,
  turn: number,
  { frame, levels }: SegmentView,
): Uint8Array {
  const level = levels.length - 1,
    { width, height } = levels[level],
    here = [...keep, ...drop].filter((mark) => someIn([mark], turn)),
    marked = coverMarks(here, frame, level, levels[level]).data,
    changed = after.map((side, i) => (side !== before[i] || marked[i] >= 128 ? 1 : 0))
  return nearAny(changed, (one) => one === 1, width, height, AROUND)
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

/** What marks and an outline say at a level; what is transparent is outside. */
export function givenBy(
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
