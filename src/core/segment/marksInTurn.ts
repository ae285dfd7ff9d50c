/**
 * Turns of marks: those of the first decide together, with an outline; those of a later turn correct.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Xu, Price, Cohen, Yang and Huang, CVPR 2016 (clicks that correct).
 */
import { type Mark } from '../fields/marks'
import { type Hints } from '../network/likelihood'
import { nearestSetPixels } from '../raster/distance'
import { boundsOfPoints } from '../raster/bounds'
import { type MarksFields, marksUntil, someIn, turnsOf } from '../steps/marks'
import { type Point } from '../vector/fill'
import { cutFromMarks } from './cutFromMarks'
import { cutFromOutline, fillLoop } from './cutFromOutline'
import { lengthOf, placesAlong } from './expectation'
import { INSIDE, OUTSIDE } from './gridCut'
import { type Turn, type Work } from './inTurn'
import { type SmallAnswer } from './objectCut'
import { coverMarks } from './strokes'
import { type SegmentView } from './view'

/** How much a px of the picture's border drops what it touches, beside a px of boundary. */
const BORDER = 0.005

export const isLoop = (outline: MarksFields['outline']): outline is readonly Point[] => (outline?.length ?? 0) > 2

/** @param marks the first of them at least keeps something, or there is an outline @param what tells the view from others */
export const turnsOfMarks = (marks: MarksFields, view: SegmentView, what: string): Turn[] =>
  turnsOf(marks).map((turn) => {
    const until = { ...marks, keep: marksUntil(marks.keep, turn), drop: marksUntil(marks.drop, turn) },
      { keep, drop, outline } = until
    return {
      key: `marks ${what} ${JSON.stringify([keep, drop, outline])}`,
      may: mayBecome(marks, turn),
      marked: [...keep, ...drop].filter((mark) => someIn([mark], turn)),
      given: (part, level) => givenBy(until, part, level).state,
      decide: (before, work) => decide(before ? keepingMiddle(until, before, view) : until, view, work),
    }
  })

/** What marks decide together; undefined where there is nothing to tell the thing by. */
function decide(marks: MarksFields, view: SegmentView, work: Work): SmallAnswer | undefined {
  const { outline } = marks,
    start = givenBy(marks, view, view.levels.length - 1).state
  if (!start.includes(INSIDE)) return (isLoop(outline) && cutFromOutline(view, start, outline, work)) || undefined
  return cutFromMarks(
    view,
    { start, border: BORDER, hints: work.network === false ? undefined : hintsOf(marks), draft: work.draft },
    work.check,
  )
}

/** Within an outline the middle of what was found counts as kept, too. */
const keepingMiddle = (marks: MarksFields, { state }: SmallAnswer, view: SegmentView): MarksFields =>
  isLoop(marks.outline) ? { ...marks, keep: [...marks.keep, ...deepest(state, marks.drop, view)] } : marks

/** The only side a turn may change what is not marked to: keep marks alone add, drop marks alone take away. */
function mayBecome({ keep, drop }: MarksFields, turn: number): number | undefined {
  const adds = someIn(keep, turn)
  return adds === someIn(drop, turn) ? undefined : adds ? INSIDE : OUTSIDE
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
