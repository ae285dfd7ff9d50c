/**
 * Spread: brush over a part, and the selection grows to the edges of what was touched; strokes that drop take away.
 * Source: Liu, Sun and Shum, "Paint Selection", SIGGRAPH 2009 (growing from strokes by colours and a cut on a coarse level, the boundary refined at full size).
 */
import { spread as spreadStep, type SpreadFields } from '../steps/spread'
import { emptyMatte } from '../raster/picture'
import { cutFromMarks } from '../segment/cutFromMarks'
import { INSIDE, OUTSIDE } from '../segment/gridCut'
import { decideInTurn, type Turn } from '../segment/inTurn'
import { coverMarks, holdMarks } from '../segment/strokes'
import { draftMatte, stateToMatte } from '../segment/softEdge'
import { type SegmentView, segmentView } from '../segment/view'
import { type Finder, type Found } from './finder'

/** How much a px of the picture's border drops what it touches, beside a px of boundary: without it a single stroke would spread over everything. */
const BORDER = 0.3

export const spread: Finder<'spread', SpreadFields> = {
  ...spreadStep,
  /** 3: strokes that take away add nothing, those that add again lose nothing. */
  version: 3,
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    if (!params.strokes.some((stroke) => stroke.mode === 'keep' && stroke.points.length))
      return nothing('nothing is brushed over yet')
    const view = segmentView(scene, params.sample, context)
    if (!givenBy(params.strokes, view, view.levels.length - 1).includes(INSIDE))
      return nothing('the strokes lie outside the picture')
    const what = `${scene.identity(params.sample)} ${view.levels.length}`,
      state = decideInTurn(turnsOf(params, view, what), view, context)!,
      found = context.draft ? draftMatte(state, view, scene) : stateToMatte(state, view, scene, params.smoothEdge)
    return holdMarks(found, params.strokes, view.levels[0])
  },
}

/** Strokes that do the same, one after another, decide together: taking away adds nothing, adding again loses nothing. */
function turnsOf({ strokes }: SpreadFields, view: SegmentView, what: string): Turn[] {
  const ends = strokes.flatMap(({ mode }, i) => (mode === strokes[i + 1]?.mode ? [] : [i + 1]))
  return ends.map((end, n) => {
    const until = strokes.slice(0, end),
      given = (part: SegmentView, level: number) => givenBy(until, part, level)
    return {
      key: `spread ${what} ${JSON.stringify(until)}`,
      may: until[end - 1].mode === 'keep' ? INSIDE : OUTSIDE,
      marked: until.slice(ends[n - 1] ?? 0),
      given,
      decide: (_, work) => {
        const start = given(view, view.levels.length - 1)
        return start.includes(INSIDE)
          ? cutFromMarks(view, { start, border: BORDER, draft: work.draft }, work)
          : undefined
      },
    }
  })
}

function givenBy(strokes: SpreadFields['strokes'], { levels, frame }: SegmentView, level: number): Uint8Array {
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
