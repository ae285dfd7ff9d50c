/**
 * A cut from marked places: the network and where a random walk over regions ends tell what is probably kept; then colours and edges decide.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Grady, IEEE PAMI 28 (2006) (random walks from marks).
 */
import { INSIDE, UNDECIDED } from './gridCut'
import { mapInto } from '../raster/mapInto'
import { type Hints, likely } from '../network/likelihood'
import { expectation, sureOf, SUREST } from './expectation'
import { outOfFocus } from './focus'
import { type Corrected, type Looking, withOutlineLookedAt } from './outlineLook'
import { keepGiven } from './keepObject'
import { calmed } from './labPlanes'
import { learnThing } from './learnColours'
import { cutSmall, type SmallAnswer } from './objectCut'
import { randomWalk } from './randomWalk'
import { regionGraph, type RegionGraph } from './regionGraph'
import { makeRegionTree } from './regionTree'
import { borderLength } from './saliency'
import { type SegmentView } from './view'

const REGIONS = 600
/** Up to this share of the regions that are kept may look out of focus when the thing is in focus. */
const SMOOTH = 0.25
/** How much each counts beside a pixel's colour, of nats. */
const BY_NETWORK = 0.5,
  BY_WALK = 0.4

/** The regions of a view and what they are by themselves, made once for all marks on it. */
interface ViewGraph {
  readonly graph: RegionGraph
  readonly border: Float32Array
  /** 1 for what is out of focus from the border on; null where the picture does not tell. */ readonly blurred: Uint8Array | null
}
const graphs = new WeakMap<SegmentView, ViewGraph>()
function graphOf(view: SegmentView): ViewGraph {
  let made = graphs.get(view)
  if (!made) {
    const graph = regionGraph(makeRegionTree(calmed(view.lab)), view.lab, REGIONS)
    const border = borderLength(graph, view.lab)
    made = { graph, border, blurred: outOfFocus(graph, view.levels, border) }
    graphs.set(view, made)
  }
  return made
}

export interface Marked {
  /** What is marked at the view's last level: UNDECIDED, OUTSIDE or INSIDE. */
  readonly start: Uint8Array
  /** How much a px of the picture's border drops what it touches, beside a px of boundary. */
  readonly border: number
  /** What the network is asked, px of the picture; absent: it is not asked, the random walk tells alone. */
  readonly hints?: Hints
  readonly corrects?: Corrected
  /** Stops at the level that is thought on. */
  readonly draft?: boolean
}

/** Decides on the level that is thought on. */
export function cutFromMarks(
  view: SegmentView,
  { start, border: pull, hints, corrects, draft }: Marked,
  looking: Looking,
): SmallAnswer {
  const { check } = looking,
    odds = hints && expectation(view, hints, !draft)
  check(0.2)
  const walk = walked(view, start, pull)
  check(0.4)
  // The network knows things, the walk knows this picture: each says what the other misses.
  const guess = mapInto(new Float32Array(start.length), start, (mark, i) =>
    mark === UNDECIDED ? (odds ? (likely(odds[i]) + walk[i]) / 2 : walk[i]) : mark === INSIDE ? 1 : 0,
  )
  const expected = odds?.map((nats, i) => BY_NETWORK * nats + BY_WALK * oddsOf(walk[i]) + (corrects?.stays[i] ?? 0))
  const { state, models } = cutSmall(
    {
      lab: view.lab,
      given: start,
      guess,
      weight: new Float32Array(start.length).fill(1),
      expected,
      learn: learnThing,
      doubtColours: odds !== undefined,
      draft,
      tidy: (s, evidence, first) => keepGiven(s, evidence, first, start, view.lab),
    },
    (p) => check(0.4 + 0.4 * p),
  )
  const answer = { state, models, sure: odds && sureOf(odds, state) }
  return odds && !draft
    ? withOutlineLookedAt(answer, view, start, { ...looking, check: (p) => check(0.8 + 0.2 * p) }, corrects)
    : answer
}

/** How probably each pixel is kept, by where a random walk from it over regions ends. */
function walked(view: SegmentView, start: Uint8Array, pull: number): Float32Array {
  const { graph, border, blurred } = graphOf(view),
    marked = markedRegions(graph, start)
  // What is out of focus is dropped, unless that is what is kept: a mark or two may lie where the thing itself is smooth.
  const kept = (which: (r: number) => boolean) =>
    marked.reduce((sum, mark, r) => sum + (mark === 1 && which(r) ? 1 : 0), 0)
  if (blurred && kept((r) => blurred[r] === 1) <= SMOOTH * kept(() => true))
    blurred.forEach((out, r) => {
      if (out && marked[r] !== marked[r]) marked[r] = 0
    })
  const probable = randomWalk(
    graph,
    marked,
    border.map((length) => length * pull),
  )
  return mapInto(new Float32Array(start.length), graph.regionOf, (region) => probable[region])
}

/** The logarithm of the odds, within what is ever expected, nats. */
const oddsOf = (probable: number): number =>
  Math.max(-SUREST, Math.min(SUREST, Math.log((probable + 1e-4) / (1 - probable + 1e-4))))

/** What a region is marked as: 1 kept, 0 dropped, NaN not marked. */
function markedRegions(graph: RegionGraph, given: Uint8Array): Float32Array {
  const kept = new Float32Array(graph.count).fill(NaN),
    votes = new Float32Array(graph.count)
  for (let i = 0; i < given.length; i++)
    if (given[i] !== UNDECIDED) votes[graph.regionOf[i]] += given[i] === INSIDE ? 1 : -1
  for (let r = 0; r < graph.count; r++) if (votes[r] !== 0) kept[r] = votes[r] > 0 ? 1 : 0
  return kept
}
