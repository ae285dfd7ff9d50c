/**
 * Turns of marks: those of the first decide together, with an outline; those of a later turn correct.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Xu, Price, Cohen, Yang and Huang, CVPR 2016 (clicks that correct).
 */
import { type Mark } from '../fields/marks'
import { type Hints } from '../network/likelihood'
import { nearestSetPixels } from '../raster/distance'
import { mapInto } from '../raster/mapInto'
import { boundsOfPoints } from '../raster/bounds'
import { isOpaque, type Picture } from '../raster/picture'
import { type MarksFields, marksUntil, someIn, turnsOf } from '../steps/marks'
import { type Point } from '../vector/fill'
import { cutFromMarks } from './cutFromMarks'
import { cutFromOutline, fillLoop } from './cutFromOutline'
import { lengthOf, placesAlong } from './expectation'
import { INSIDE, OUTSIDE } from './gridCut'
import { type Turn, type Work } from './inTurn'
import { type Corrected, STAYS } from './outlineLook'
import { cutOf, type SmallAnswer } from './objectCut'
import { boxOfMarks, coveredBy, coverMarks } from './strokes'
import { type SegmentView } from './view'

/** How much a px of the picture's border drops what it touches, beside a px of boundary. */
const BORDER = 0.005
/** What there was speaks for itself the less so near the marks of a later turn, as a share of the side of a square as large as what there was. */
const NEAR = 0.3

export const isLoop = (outline: MarksFields['outline']): outline is readonly Point[] => (outline?.length ?? 0) > 2

/** @param marks the first of them at least keeps something, or there is an outline @param what tells the view from others */
export const turnsOfMarks = (marks: MarksFields, view: SegmentView, what: string): Turn[] =>
  turnsOf(marks).map((turn) => {
    const until = { ...marks, keep: marksUntil(marks.keep, turn), drop: marksUntil(marks.drop, turn) },
      { keep, drop, outline } = until,
      marked = [...keep, ...drop].filter((mark) => someIn([mark], turn))
    return {
      key: `marks ${what} ${JSON.stringify([keep, drop, outline])}`,
      may: mayBecome(marks, turn),
      marked,
      given: (part, level) => givenBy(until, part, level).state,
      decide: (before, work) => {
        if (!before) return decideTogether(until, view, work)
        const cut = cutOf(before)
        return decideTogether(keepingMiddle(until, cut, view), view, work, {
          before,
          stays: staying(cut, marked, view),
        })
      },
    }
  })

/** What marks decide together, on the level that is thought on; undefined where there is nothing to tell the thing by. */
export function decideTogether(
  marks: MarksFields,
  view: SegmentView,
  work: Work,
  corrects?: Corrected,
): SmallAnswer | undefined {
  const { outline } = marks,
    start = givenBy(marks, view, view.levels.length - 1).state
  if (!start.includes(INSIDE)) return (isLoop(outline) && cutFromOutline(view, start, outline, work)) || undefined
  return cutFromMarks(
    view,
    {
      start,
      border: BORDER,
      hints: work.network === false ? undefined : hintsOf(marks),
      corrects,
      draft: work.draft,
    },
    work,
  )
}

const countOf = (state: Uint8Array): number => state.reduce((sum, side) => sum + (side === INSIDE ? 1 : 0), 0)

/** What there was speaks for itself, the less the nearer the marks of a correction: a mark is set where it is wrong. */
function staying(state: Uint8Array, marked: readonly Mark[], view: SegmentView): Float32Array {
  const size = view.levels.at(-1)!,
    out = mapInto(new Float32Array(state.length), state, (side) => (side === INSIDE ? STAYS : -STAYS)),
    near = NEAR * Math.sqrt(Math.max(1, countOf(state)))
  nearestSetPixels(coveredBy(marked, view), size, near, (y, nearest, from, to) => {
    for (let x = from, i = y * size.width + from; x < to; x++, i++) {
      const n = nearest[x]
      if (n >= 0) out[i] *= Math.hypot(x - (n % size.width), y - Math.floor(n / size.width)) / near
    }
  })
  return out
}

/** Within an outline the middle of what was found counts as kept, too. */
const keepingMiddle = (marks: MarksFields, state: Uint8Array, view: SegmentView): MarksFields =>
  isLoop(marks.outline) ? { ...marks, keep: [...marks.keep, ...deepest(state, marks.drop, view)] } : marks

/** The only side a turn may change what is not marked to: keep marks alone add, drop marks alone take away. */
function mayBecome({ keep, drop }: MarksFields, turn: number): number | undefined {
  const adds = someIn(keep, turn)
  return adds === someIn(drop, turn) ? undefined : adds ? INSIDE : OUTSIDE
}

/** A mark in the middle of where an answer is widest, away from what is dropped; none where it is empty, or everything. */
function deepest(state: Uint8Array, drop: readonly Mark[], view: SegmentView): Mark[] {
  const { levels, frame } = view,
    level = levels.length - 1,
    { width, height } = levels[level],
    dropped = coveredBy(drop, view)
  let most = 0,
    at = -1
  nearestSetPixels(
    state.map((side, i) => (side === INSIDE && !dropped[i] ? 0 : 1)),
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

/** Whether nothing of a level of a view is transparent: asked again and again. */
const known = new WeakMap<Picture, boolean>()
function opaque(picture: Picture): boolean {
  const is = known.get(picture) ?? isOpaque(picture)
  known.set(picture, is)
  return is
}

/** What marks and an outline say at a level; what is transparent is outside. */
export function givenBy(
  { keep, drop, outline }: MarksFields,
  view: SegmentView,
  level: number,
): { state: Uint8Array; contradictory: boolean } {
  const picture = view.levels[level],
    { width, height } = picture,
    state = new Uint8Array(width * height)
  if (isLoop(outline)) {
    const within = fillLoop(view, outline, level)
    for (let i = 0; i < state.length; i++) if (within[i] < 128) state[i] = OUTSIDE
  }
  if (!opaque(picture)) {
    const { data } = picture
    for (let i = 0; i < state.length; i++) if (data[4 * i + 3] < 128) state[i] = OUTSIDE
  }
  const box = boxOfMarks([...keep, ...drop], view.frame, level, picture),
    scale = 2 ** level,
    part = { ...box, x: view.frame.x + box.x * scale, y: view.frame.y + box.y * scale },
    inside = coverMarks(keep, part, level, box).data,
    outside = coverMarks(drop, part, level, box).data
  let contradictory = false
  for (let y = 0, i = 0; y < box.height; y++)
    for (let x = 0, to = (box.y + y) * width + box.x; x < box.width; x++, i++, to++) {
      if (inside[i] >= 128) {
        state[to] = INSIDE
        if (outside[i] >= 128) contradictory = true
      } else if (outside[i] >= 128) state[to] = OUTSIDE
    }
  return { state, contradictory }
}
