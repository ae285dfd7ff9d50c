/**
 * Spread: brush over a part, and the selection grows to the edges of what was touched; strokes that drop take away.
 * Source: Liu, Sun and Shum, "Paint Selection", SIGGRAPH 2009 (growing from strokes by colours and a cut on a coarse level, the boundary refined at full size).
 */
import { spread as spreadStep, type SpreadFields } from '../steps/spread'
import { emptyMatte } from '../raster/picture'
import { cutFromMarks } from '../segment/cutFromMarks'
import { INSIDE, OUTSIDE } from '../segment/gridCut'
import { refine } from '../segment/objectCut'
import { coverMarks, holdMarks } from '../segment/strokes'
import { draftMatte, stateToMatte } from '../segment/softEdge'
import { type SegmentView, segmentView } from '../segment/view'
import { type Finder, type Found } from './finder'

/** How much a px of the picture's border drops what it touches, beside a px of boundary: without it a single stroke would spread over everything. */
const BORDER = 0.3

export const spread: Finder<'spread', SpreadFields> = {
  ...spreadStep,
  /** 2: strokes hold what they touch. */
  version: 2,
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    if (!params.strokes.some((stroke) => stroke.mode === 'keep' && stroke.points.length))
      return nothing('nothing is brushed over yet')
    const view = segmentView(scene, params.sample, context),
      given = (level: number) => givenBy(params, view, level),
      start = given(view.levels.length - 1)
    if (!start.includes(INSIDE)) return nothing('the strokes lie outside the picture')
    const { check, draft } = context,
      small = cutFromMarks(view, { start, border: BORDER, draft }, (p) => check(0.6 * p))
    const found = draft
      ? draftMatte(small.state, view, scene)
      : stateToMatte(
          refine(small.state, { ...small, levels: view.levels, givenAt: given }, (p) => check(0.6 + 0.4 * p)),
          view,
          scene,
          params.smoothEdge,
        )
    return holdMarks(found, params.strokes, view.levels[0])
  },
}

function givenBy({ strokes }: SpreadFields, { levels, frame }: SegmentView, level: number): Uint8Array {
  const picture = levels[level],
    state = new Uint8Array(picture.width * picture.height)
  for (const stroke of strokes) {
    const covered = coverMarks([stroke], frame, level, picture).data,
      side = stroke.mode === 'keep' ? INSIDE : OUTSIDE
    for (let i = 0; i < state.length; i++) if (covered[i] >= 128) state[i] = side
  }
  for (let i = 0; i < state.length; i++) if (picture.data[4 * i + 3] < 128) state[i] = OUTSIDE
  return state
}
