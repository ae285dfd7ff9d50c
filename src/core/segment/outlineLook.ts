/**
 * What was decided, looked at once more along its outline: there the network sees the level that is thought on pixel by pixel, and knows what lies
 * farther off on both sides, as it knows the two sides of a trimap.
 * Source: Cheng, Chung, Tai and Tang, "CascadePSP: toward class-agnostic and very high-resolution segmentation via global and local refinement",
 * CVPR 2020 (a cut refined part by part).
 */
import { expectedCoverage, looksAt, RIM } from '../network/expectedCoverage'
import { alone, type Crew, seenByAll } from '../parallel/crew'
import { around } from '../raster/bounds'
import { cropRows, partOf } from '../raster/crop'
import { nearAny } from '../raster/nearAny'
import { type Size } from '../raster/picture'
import { boundsOf } from '../raster/tally'
import { INSIDE, OUTSIDE, UNDECIDED } from './gridCut'
import { cutOf, type SmallAnswer } from './objectCut'
import { piecesOf } from './pieces'
import { type SegmentView } from './view'

/** So near its outline a cut is open again, px of the level that is thought on: as far as trimaps were unknown when the network learnt (1 to 16 px on each side). */
const OPEN = 12

/** What marks correct. */
export interface Corrected {
  readonly before: SmallAnswer
  /** How much speaks for what there was, nats, below zero for outside: counts beside what is expected; less than STAYS near the marks. */
  readonly stays: Float32Array
}
/** What there was speaks for itself so loudly far from marks that correct it, nats. */
export const STAYS = 1

export interface Looking {
  readonly crew?: Crew
  /** True: a rough outline is enough, it is not looked at once more. */ readonly rough?: boolean
  /** Called between looks with the progress, 0-1. */ readonly check: (progress: number) => void
}

/**
 * The same answer, its outline as the network sees it.
 * @param given UNDECIDED where it may change
 * @param corrects where the cut is what it was then, far from the marks, the answer is, too, and nothing is looked at
 */
export function withOutlineLookedAt(
  answer: SmallAnswer,
  view: SegmentView,
  given: Uint8Array,
  { crew = alone, rough, check }: Looking,
  corrects?: Corrected,
): SmallAnswer {
  if (rough) return answer
  const picture = view.levels.at(-1)!,
    { width, height } = picture,
    near = (plane: Uint8Array, value: number) => nearAny(plane, (one) => one === value, width, height, OPEN),
    cut = answer.state,
    anew = corrects && near(changed(cut, corrects), 1),
    state = anew ? cut.map((side, i) => (anew[i] ? side : corrects.before.state[i])) : cut,
    [inside, outside] = [near(state, INSIDE), near(state, OUTSIDE)],
    open = given.map((side, i) => (side === UNDECIDED && inside[i] && outside[i] && anew?.[i] !== 0 ? 1 : 0)),
    bounds = boundsOf({ width, height, data: open }),
    // Where the cut is not as it is seen, it was not as surely expected.
    asSeen = (after: Uint8Array): SmallAnswer => ({
      ...answer,
      state: after,
      cut,
      sure: answer.sure?.map((one, i) => (after[i] === cut[i] ? one : 0)),
    })
  if (!bounds) return asSeen(state)
  const part = around(bounds, RIM, picture),
    inPart = (plane: Uint8Array) => cropRows(plane, width, part, new Uint8Array(part.width * part.height)),
    unknown = seenByAll(crew, inPart(open)),
    coverage = seenByAll(crew, inPart(state.map((side) => (side === INSIDE ? 1 : 0)))),
    { data } = partOf(picture, part),
    seen = expectedCoverage(
      { picture: { width: part.width, height: part.height, data: seenByAll(crew, data) }, unknown, coverage, full: 1 },
      looksAt(unknown, part),
      check,
      crew,
    ),
    after = state.slice()
  for (let y = 0, j = 0; y < part.height; y++)
    for (let x = 0, i = (part.y + y) * width + part.x; x < part.width; x++, i++, j++)
      if (unknown[j]) after[i] = seen[j] > 0.5 ? INSIDE : OUTSIDE
  keepUnknown(after, state, open, picture)
  return asSeen(after)
}

/**
 * Gives back, in place, pieces of a cut of which nothing was known, so that the network had nothing to tell them by, and most of which it did not see:
 * what is small or thin.
 */
function keepUnknown(after: Uint8Array, state: Uint8Array, open: Uint8Array, size: Size): void {
  const { pieceOf, areas } = piecesOf(state, size, INSIDE),
    known = new Uint8Array(areas.length),
    left = new Uint32Array(areas.length)
  for (let i = 0; i < state.length; i++) {
    const piece = pieceOf[i]
    if (piece < 0) continue
    if (!open[i]) known[piece] = 1
    if (after[i] === INSIDE) left[piece]++
  }
  for (let i = 0; i < state.length; i++) {
    const piece = pieceOf[i]
    if (piece >= 0 && !known[piece] && 2 * left[piece] < areas[piece]) after[i] = INSIDE
  }
}

/** 1 where a cut is not what was seen before, and near the marks or not what was cut before. */
function changed(cut: Uint8Array, { before, stays }: Corrected): Uint8Array {
  const was = cutOf(before)
  return cut.map((side, i) => (side !== before.state[i] && (side !== was[i] || Math.abs(stays[i]) < STAYS) ? 1 : 0))
}
