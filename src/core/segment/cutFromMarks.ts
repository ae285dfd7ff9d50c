/**
 * A cut from marked places: where a random walk over regions ends tells what is probably kept, then colours and edges decide.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Grady, IEEE PAMI 28 (2006) (random walks from marks).
 */
import { INSIDE, UNDECIDED } from './gridCut'
import { keepGiven } from './keepObject'
import { calmed } from './labPlanes'
import { cutSmall, refine } from './objectCut'
import { randomWalk } from './randomWalk'
import { regionGraph, type RegionGraph } from './regionGraph'
import { makeRegionTree } from './regionTree'
import { borderLength } from './saliency'
import { type SegmentView } from './view'

const REGIONS = 600

/**
 * @param given what is marked at each level: UNDECIDED, OUTSIDE or INSIDE @param start the same at the view's last level
 * @param border how much a px of the picture's border drops what it touches, beside a px of boundary
 * @returns INSIDE and OUTSIDE at the view's full size
 */
export function cutFromMarks(view: SegmentView, given: (level: number) => Uint8Array, start: Uint8Array, border: number, check: (progress: number) => void): Uint8Array {
  const tree = makeRegionTree(calmed(view.lab)), graph = regionGraph(tree, view.lab, REGIONS)
  check(0.25)
  const probable = randomWalk(graph, markedRegions(graph, start), borderLength(graph, view.lab).map((length) => length * border))
  const guess = Float32Array.from(start, (g, i) => (g === UNDECIDED ? probable[graph.regionOf[i]] : g === INSIDE ? 1 : 0))
  const { state, models } = cutSmall({ lab: view.lab, given: start, guess, weight: new Float32Array(start.length).fill(1), tidy: (s, evidence, first) => keepGiven(s, evidence, first, start, view.lab) }, (p) => check(0.25 + 0.3 * p))
  return refine(state, { levels: view.levels, models, givenAt: given }, (p) => check(0.55 + 0.4 * p))
}

/** What a region is marked as: 1 kept, 0 dropped, NaN not marked. */
function markedRegions(graph: RegionGraph, given: Uint8Array): Float32Array {
  const kept = new Float32Array(graph.count).fill(NaN), votes = new Float32Array(graph.count)
  for (let i = 0; i < given.length; i++) if (given[i] !== UNDECIDED) votes[graph.regionOf[i]] += given[i] === INSIDE ? 1 : -1
  for (let r = 0; r < graph.count; r++) if (votes[r] !== 0) kept[r] = votes[r] > 0 ? 1 : 0
  return kept
}
