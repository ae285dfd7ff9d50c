/**
 * Marks: what is kept, what is dropped, what is unsure. From the marked places colours and reach decide everywhere else, then the cut along edges.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Price, Morse and Cohen, "Geodesic graph cut for interactive
 * image segmentation", CVPR 2010 (reach from the marks beside their colours).
 */
import { marks as marksStep, type MarksFields } from '../steps/marks'
import { solveUnknown, type Work } from '../matting/solveUnknown'
import { emptyMatte, type Matte, type Picture } from '../raster/picture'
import { INSIDE, OUTSIDE, UNDECIDED } from '../segment/gridCut'
import { type Hints } from '../network/likelihood'
import { THINGS_VERSION } from '../network/network'
import { boundsOfPoints } from '../segment/bounds'
import { lengthOf, placesAlong } from '../segment/expectation'
import { cutFromMarks } from '../segment/cutFromMarks'
import { draftMatte, stateToMatte } from '../segment/softEdge'
import { coverMarks } from '../segment/strokes'
import { finerView, type SegmentView, segmentView, wholeOf } from '../segment/view'
import { fillPolygons } from '../vector/fill'
import { type Finder, type Found } from './finder'

/** How much a px of the picture's border drops what it touches, beside a px of boundary. */
const BORDER = 0.005

export const marks: Finder<'marks', MarksFields> = {
  ...marksStep,
  version: THINGS_VERSION,
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    if (!params.keep.length && !params.outline) return nothing('nothing is marked to be kept yet')
    const whole = segmentView(scene, params.sample, context),
      view = context.draft ? whole : finerView(whole, context),
      small = view.levels.length - 1
    let contradictory = false
    const given = (level: number): Uint8Array => {
      const made = givenBy(params, view, level)
      contradictory ||= made.contradictory
      return made.state
    }
    const start = given(small)
    if (!start.includes(INSIDE) && !params.outline) return nothing('the keep marks lie outside the picture')
    context.check(0.05)
    const full = cutFromMarks(
      view,
      {
        given,
        start,
        border: BORDER,
        hints: context.network === false ? undefined : hintsOf(params),
        draft: context.draft,
      },
      context.check,
    )
    if (context.draft) return draftMatte(full, view, scene)
    const matte = stateToMatte(full, view, scene, true)
    if (params.unsure.some((stroke) => stroke.points.length))
      solveUnsure(matte, view.levels[0], params, given(0), { ...context, check: (p) => context.check(0.95 + 0.05 * p) })
    return {
      ...matte,
      ...(contradictory ? { note: 'Keep and drop marks lie over each other in places: there keep counts.' } : {}),
    }
  },
}

/** A stroke is shown to the network as so many places at most: it was taught by places. */
const PLACES = 4

function hintsOf({ keep, drop, outline }: MarksFields): Hints {
  const places = (marks: MarksFields['keep']) =>
    marks.flatMap(({ points, size }) => placesAlong(points, Math.max(size, lengthOf(points) / PLACES)))
  return {
    keep: places(keep),
    drop: places(drop),
    ...(outline && outline.length > 2 ? { box: boundsOfPoints(outline) } : {}),
  }
}

/** What unsure marks cover is solved as a matte, from what was decided around it. */
function solveUnsure(
  matte: Matte,
  picture: Picture,
  { unsure, solver }: MarksFields,
  given: Uint8Array,
  work: Work,
): void {
  const open = coverMarks(unsure, wholeOf(picture), 0, picture).data
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
  { levels, frame }: SegmentView,
  level: number,
): { state: Uint8Array; contradictory: boolean } {
  const picture = levels[level],
    inside = coverMarks(keep, frame, level, picture).data,
    outside = coverMarks(drop, frame, level, picture).data
  const within =
    outline && outline.length > 2
      ? fillPolygons(
          picture,
          [outline.map(([x, y]) => [(x - frame.x) / 2 ** level, (y - frame.y) / 2 ** level])],
          'evenodd',
        ).data
      : null
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
