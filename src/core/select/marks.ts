/**
 * Marks: what is kept, what is dropped, what is unsure. From the marked places colours and reach decide everywhere else, then the cut along edges.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Price, Morse and Cohen, "Geodesic graph cut for interactive
 * image segmentation", CVPR 2010 (reach from the marks beside their colours).
 */
import { marks as marksStep, type MarksFields } from '../steps/marks'
import { solveUnknown, type Work } from '../matting/solveUnknown'
import { type Box } from '../raster/content'
import { emptyMatte, type Matte, type Size } from '../raster/picture'
import { THINGS_VERSION } from '../network/network'
import { frameOf } from '../segment/cutFromOutline'
import { INSIDE, UNDECIDED } from '../segment/gridCut'
import { decideInTurn } from '../segment/inTurn'
import { givenBy, isLoop, turnsOfMarks } from '../segment/marksInTurn'
import { draftMatte, placed, stateToMatte } from '../segment/softEdge'
import { coverMarks } from '../segment/strokes'
import { type SegmentView, thingView, wholeOf } from '../segment/view'
import { type Finder, type Found } from './finder'

export const marks: Finder<'marks', MarksFields> = {
  ...marksStep,
  /**
   * More than the weights: an outline alone is cut as a rough box is, and only what lies around it is looked at; what a turn did not change stays at
   * full size, too; shadows; what there was speaks for itself when marks correct it; its outline is looked at once more.
   */
  version: THINGS_VERSION + 5,
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    if (!params.keep.length && !params.outline) return nothing('nothing is marked to be kept yet')
    const view = thingView(scene, params.sample, context, frameFor(params, scene)),
      last = view.levels.length - 1
    if (!params.outline && !givenBy(params, view, last).state.includes(INSIDE))
      return nothing('the keep marks lie outside the picture')
    context.check(0.05)
    const what = `${scene.identity(params.sample)} ${Object.values(view.frame).join(' ')} ${last}`,
      state = decideInTurn(turnsOfMarks(params, view, what), view, {
        ...context,
        check: (p) => context.check(0.05 + 0.9 * p),
      })
    if (!state) return nothing('the outline leaves nothing around it to tell the thing from: leave some space')
    if (context.draft) return draftMatte(state, view, scene)
    const { frame } = view,
      given = params.drop.length || params.unsure.length ? givenBy(params, view, 0) : null,
      matte = stateToMatte(state, { ...view, frame: wholeOf(frame) }, frame, true)
    if (given && params.unsure.some((stroke) => stroke.points.length))
      solveUnsure(matte, view, params, given.state, { ...context, check: (p) => context.check(0.95 + 0.05 * p) })
    return {
      ...placed(matte, frame, scene),
      ...(given?.contradictory
        ? { note: 'Keep and drop marks lie over each other in places: there keep counts.' }
        : {}),
    }
  },
}

/** What is looked at: what lies around an outline and the keep marks, or everything. */
function frameFor({ outline, keep }: MarksFields, size: Size): Box {
  return (isLoop(outline) && frameOf([...outline, ...keep.flatMap(({ points }) => points)], size)) || wholeOf(size)
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
