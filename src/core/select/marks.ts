/**
 * Marks: what is kept, what is dropped, what is unsure. From the marked places colours and reach decide everywhere else, then the cut along edges.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Price, Morse and Cohen, "Geodesic graph cut for interactive
 * image segmentation", CVPR 2010 (reach from the marks beside their colours).
 */
import { oneOf, optional, points } from '../common/fields'
import { emptyMatte, type Size } from '../raster/picture'
import { INSIDE, OUTSIDE, UNDECIDED } from '../segment/gridCut'
import { keepGiven } from '../segment/keepObject'
import { calmed } from '../segment/labPlanes'
import { cutSmall, refine } from '../segment/objectCut'
import { randomWalk } from '../segment/randomWalk'
import { regionGraph, type RegionGraph } from '../segment/regionGraph'
import { makeRegionTree } from '../segment/regionTree'
import { stateToMatte } from '../segment/softEdge'
import { coverMarks, type Mark, marks as markField } from '../segment/strokes'
import { type SegmentView, segmentView } from '../segment/view'
import { fillPolygons, type Point } from '../vector/fill'
import { type Finder, type Found } from './finder'

export interface MarksFields {
  /** A rough outline, px: what lies outside it is dropped. */
  outline?: readonly Point[]
  keep: readonly Mark[]
  drop: readonly Mark[]
  unsure: readonly Mark[]
  solver: 'closedForm' | 'sampling'
}

const REGIONS = 600
/** How much a px of the picture's border drops what it touches, beside a px of boundary. */
const BORDER = 0.005

export const marks: Finder<'marks', MarksFields> = {
  kind: 'marks',
  finds: true,
  looksAtPixels: true,
  fields: { outline: optional(points(100_000)), keep: markField([], []), drop: markField([], []), unsure: markField([], []), solver: oneOf(['closedForm', 'sampling'] as const, 'closedForm') },
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    if (!params.keep.length && !params.outline) return nothing('nothing is marked to be kept yet')
    const view = segmentView(scene, params.sample, context), small = view.levels.length - 1
    let contradictory = false
    const given = (level: number): Uint8Array => {
      const made = givenBy(params, view, level)
      contradictory ||= made.contradictory
      return made.state
    }
    const start = given(small)
    if (!start.includes(INSIDE) && !params.outline) return nothing('the keep marks lie outside the picture')
    context.check(0.05)
    const tree = makeRegionTree(calmed(view.lab)), graph = regionGraph(tree, 0, view.lab, REGIONS)
    context.check(0.25)
    const probable = randomWalk(graph, markedRegions(graph, start), borderLength(graph, view.lab).map((length) => length * BORDER))
    const guess = Float32Array.from(start, (g, i) => (g === UNDECIDED ? probable[graph.regionOf[i]] : g === INSIDE ? 1 : 0))
    const { state, models } = cutSmall({ lab: view.lab, given: start, guess, weight: new Float32Array(start.length).fill(1), tidy: (s, evidence, first) => keepGiven(s, evidence, first, start, view.lab) }, (p) => context.check(0.25 + 0.3 * p))
    const full = refine(state, { levels: view.levels, models, givenAt: given }, (p) => context.check(0.55 + 0.4 * p))
    return { ...stateToMatte(full, view, scene, true), ...(contradictory ? { note: 'Keep and drop marks lie over each other in places: there the later word is keep.' } : {}) }
  },
}

function givenBy({ keep, drop, outline }: MarksFields, { levels, frame }: SegmentView, level: number): { state: Uint8Array; contradictory: boolean } {
  const picture = levels[level], inside = coverMarks(keep, frame, level, picture).data, outside = coverMarks(drop, frame, level, picture).data
  const within = outline && outline.length > 2 ? fillPolygons(picture, [outline.map(([x, y]) => [(x - frame.x) / 2 ** level, (y - frame.y) / 2 ** level])], 'evenodd').data : null
  const state = new Uint8Array(inside.length)
  let contradictory = false
  for (let i = 0; i < state.length; i++) {
    if (inside[i] >= 128) { state[i] = INSIDE; if (outside[i] >= 128) contradictory = true }
    else if (outside[i] >= 128 || (within && within[i] < 128) || picture.data[4 * i + 3] < 128) state[i] = OUTSIDE
  }
  return { state, contradictory }
}

/** What a region is marked as: 1 kept, 0 dropped, NaN not marked. */
function markedRegions(graph: RegionGraph, given: Uint8Array): Float32Array {
  const kept = new Float32Array(graph.count).fill(NaN), votes = new Float32Array(graph.count)
  for (let i = 0; i < given.length; i++) if (given[i] !== UNDECIDED) votes[graph.regionOf[i]] += given[i] === INSIDE ? 1 : -1
  for (let r = 0; r < graph.count; r++) if (votes[r] !== 0) kept[r] = votes[r] > 0 ? 1 : 0
  return kept
}

/** How much of the picture's border each region touches, px. */
function borderLength(graph: RegionGraph, { width, height }: Size): Float32Array {
  const length = new Float32Array(graph.count)
  for (let x = 0; x < width; x++) { length[graph.regionOf[x]]++; length[graph.regionOf[(height - 1) * width + x]]++ }
  for (let y = 0; y < height; y++) { length[graph.regionOf[y * width]]++; length[graph.regionOf[y * width + width - 1]]++ }
  return length
}
