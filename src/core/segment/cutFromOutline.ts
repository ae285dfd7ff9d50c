/**
 * The thing within a rough outline, on the level that is thought on.
 *
 * Two first guesses are cut by colours and contrast in turn: what the network expects in the box, and what is not easily reached from around it and
 * does not look like it (geodesic distance over regions). Taken is the object whose outline lies on edges, which looks least like what surrounds it,
 * and which is most as expected. Without the network the second guess is beside one by what it costs to merge a region into the surroundings.
 * Sources: Rother, Kolmogorov and Blake 2004; Wei, Wen, Zhu and Sun, "Geodesic saliency using background priors", ECCV 2012 (surroundings are
 * what the border reaches); Lempitsky, Kohli, Rother and Sharp, "Image segmentation with a bounding box prior", ICCV 2009 (the object fills its box).
 */
import { type Hints, likely } from '../network/likelihood'
import { mapInto } from '../raster/mapInto'
import { fillPolygons, type Point } from '../vector/fill'
import { colourGradient } from './basins'
import { bestCut } from './bestCut'
import { boundsOfPoints } from '../raster/bounds'
import { type Looking, withOutlineLookedAt } from './outlineLook'
import { colourOverlap } from './colourOverlap'
import { agreement, CALM, dropUnexpected, EXPECTED, expectation, sureOf } from './expectation'
import { outOfFocus } from './focus'
import { INSIDE, OUTSIDE, UNDECIDED } from './gridCut'
import { guessByReach, guessByTree } from './guess'
import { keepObject } from './keepObject'
import { calmed } from './labPlanes'
import { learnBoth, learnThing } from './learnColours'
import { cutSmall, type SmallAnswer } from './objectCut'
import { outlineStrength } from './outlineStrength'
import { regionGraph, type RegionGraph } from './regionGraph'
import { type RegionTree } from './mergeCost'
import { makeRegionTree } from './regionTree'
import { frameAround, type SegmentView } from './view'
import { type Size } from '../raster/picture'

/** How far around the box surroundings are learnt, as a share of its sides, and at least px. */
const MARGIN = 0.5,
  LEAST_MARGIN = 24

/** What is looked at to find the thing within an outline: some of what lies around it, too; null where it lies outside the picture. */
export const frameOf = (loop: readonly Point[], size: Size) =>
  frameAround(boundsOfPoints(loop), MARGIN, LEAST_MARGIN, size)

const REGIONS = 400
/** The object spans at least this share of the box in both directions. */
const LEAST_SPAN = 0.66
/** And at least this share of its area. */
const LEAST_FILL = 0.1
/** An object as good as this needs no second guess. */
const SURE = 8
/** A guess that takes likeness into account also finds openings: it is preferred when its outline is nearly as good as the other's. */
const PREFERENCE = 1.15

interface Work extends Looking {
  /** False: without the network. */ readonly network?: boolean
  /** A quick answer: the network's guess, cut once. */ readonly draft?: boolean
}

/** @param start what is given: OUTSIDE beyond the outline @returns the better of two guesses; null where nothing lies around the outline, by which the thing could be told */
export const cutFromOutline = (
  view: SegmentView,
  start: Uint8Array,
  loop: readonly Point[],
  work: Work,
): SmallAnswer | null =>
  work.network === false ? byRegions(view, start, work) : cutByNetwork(view, start, { box: boundsOfPoints(loop) }, work)

/** Which pixels of a level lie within a loop, 0-255. */
export const fillLoop = ({ levels, frame }: SegmentView, loop: readonly Point[], level: number): Uint8Array =>
  fillPolygons(
    levels[level],
    [loop.map(([x, y]) => [(x - frame.x) / 2 ** level, (y - frame.y) / 2 ** level])],
    'evenodd',
  ).data

/** What is given at a level: what lies outside the loop, and what is transparent, is outside. */
export function outsideGiven(view: SegmentView, loop: readonly Point[], level: number): Uint8Array {
  const { data } = view.levels[level]
  return fillLoop(view, loop, level).map((within, i) => (within < 128 || data[4 * i + 3] < 128 ? OUTSIDE : UNDECIDED))
}

/** An outline fainter than this (CIELAB units a pixel) is none. */
const FAINTEST = 1

/** The better of the network's guess and the one by reach, each cut with the network beside the colours. @param start what is given @param hints what the network is shown, px of the picture */
export function cutByNetwork(view: SegmentView, start: Uint8Array, hints: Hints, work: Work): SmallAnswer {
  const { lab } = view,
    // Anchors all round tell more than a box: what is expected of them counts in full.
    count = hints.anchors ? 1 : EXPECTED,
    odds = expectation(view, hints, false),
    expected = odds.map((nats) => count * nats),
    probable = mapInto(new Float32Array(start.length), start, (g, i) =>
      g === UNDECIDED ? likely(odds[i]) : g === INSIDE ? 1 : 0,
    ),
    weight = new Float32Array(start.length).fill(1)
  work.check(0.2)
  const likeliest = cutSmall(
    {
      lab,
      given: start,
      guess: probable,
      weight,
      expected,
      learn: learnThing,
      smoothness: CALM,
      draft: work.draft,
      tidy: (s) => dropUnexpected(s, odds, lab),
    },
    (p) => work.check(0.2 + 0.3 * p),
  )
  if (work.draft) return likeliest
  const { gradient, graph } = regionsOf(view),
    { outer, whole } = outsideShares(graph, start),
    reached = whole ? null : guessByReach(graph, outer, start)
  work.check(0.7)
  const cuts = [
    likeliest,
    ...(reached
      ? [
          cutSmall(
            {
              lab,
              given: start,
              guess: reached,
              weight,
              expected,
              learn: learnThing,
              tidy: (s, e, first) => keepObject(s, e, first, lab),
            },
            (p) => work.check(0.7 + 0.15 * p),
          ),
        ]
      : []),
  ]
  const scores = cuts.map(({ state }) => {
    const outline = outlineStrength(state, gradient, lab)
    return outline < FAINTEST ? 0 : outline * (1 - colourOverlap(state, lab)) * agreement(state, odds, start)
  })
  const best = cuts[scores.indexOf(Math.max(...scores))]
  return Math.max(...scores) > 0
    ? withOutlineLookedAt({ ...best, sure: sureOf(odds, best.state) }, view, start, {
        ...work,
        check: (p) => work.check(0.85 + 0.15 * p),
      })
    : { ...best, state: best.state.fill(OUTSIDE) }
}

/** The best of two guesses by regions alone; null where nothing lies around the box. */
function byRegions(view: SegmentView, start: Uint8Array, work: Work): SmallAnswer | null {
  const { gradient, tree, graph } = regionsOf(view)
  work.check(0.4)
  const { outer, whole } = outsideShares(graph, start)
  if (whole) return null
  leaveOutOfFocus(graph, view, outer)
  const best = bestCut(
    [guessByReach(graph, outer, start), guessByTree(tree, graph, outer, start)],
    { lab: view.lab, given: start, enough: SURE },
    (state, n) => (n === 0 ? PREFERENCE : 1) * scoreOf(state, start, gradient, view),
    (p) => work.check(0.4 + 0.6 * p),
  )
  const weight = new Float32Array(start.length).fill(1)
  return best ?? { state: start.map(() => OUTSIDE), models: learnBoth(view.lab, weight, weight) }
}

/** The regions of the level that is thought on; the same view is asked by anchors and by their box. */
const known = new WeakMap<SegmentView, Regions>()
interface Regions {
  readonly gradient: Float32Array
  readonly tree: RegionTree
  readonly graph: RegionGraph
}
function regionsOf(view: SegmentView): Regions {
  const there = known.get(view)
  if (there) return there
  const calm = calmed(view.lab),
    gradient = colourGradient(calm),
    tree = makeRegionTree(calm, { gradient }),
    made = { gradient, tree, graph: regionGraph(tree, view.lab, REGIONS) }
  known.set(view, made)
  return made
}

/** For each region the share of it that is given as outside. */
function outsideShares(graph: RegionGraph, given: Uint8Array): { outer: Float32Array; whole: boolean } {
  const outer = new Float32Array(graph.count)
  let any = false
  for (let i = 0; i < given.length; i++)
    if (given[i] === OUTSIDE) {
      outer[graph.regionOf[i]]++
      any = true
    }
  for (let r = 0; r < graph.count; r++) outer[r] /= Math.max(1, graph.area[r])
  return { outer, whole: !any }
}

/** What is out of focus like the surroundings counts to them, unless hardly anything would be left. */
function leaveOutOfFocus(graph: RegionGraph, { levels }: SegmentView, outer: Float32Array): void {
  const blurred = outOfFocus(
      graph,
      levels,
      outer.map((share) => (share > 0.5 ? 1 : 0)),
    ),
    area = (left: (r: number) => boolean) =>
      outer.reduce((sum, share, r) => sum + (left(r) ? (1 - share) * graph.area[r] : 0), 0)
  if (blurred && area((r) => !blurred[r]) >= LEAST_FILL * area(() => true))
    blurred.forEach((out, r) => {
      if (out) outer[r] = 1
    })
}

/** How good an object is: it spans and fills its box, and its outline lies on edges. */
function scoreOf(state: Uint8Array, given: Uint8Array, gradient: Float32Array, view: SegmentView): number {
  let inside = 0,
    undecided = 0
  for (let i = 0; i < state.length; i++) {
    if (given[i] === UNDECIDED) undecided++
    if (state[i] === INSIDE) inside++
  }
  return (
    outlineStrength(state, gradient, view.lab) *
    Math.min(1, spans(state, given, view) / LEAST_SPAN) ** 2 *
    Math.min(1, inside / (LEAST_FILL * undecided))
  )
}

/** How much of what was undecided the object spans, the lesser of both directions, 0-1. */
function spans(state: Uint8Array, given: Uint8Array, { lab: { width, height } }: SegmentView): number {
  const reach = (data: Uint8Array, value: number) => {
    let left = width,
      right = 0,
      top = height,
      bottom = 0
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        if (data[y * width + x] === value) {
          if (x < left) left = x
          if (x >= right) right = x + 1
          if (y < top) top = y
          bottom = y + 1
        }
    return [Math.max(0, right - left), Math.max(0, bottom - top)]
  }
  const [w, h] = reach(state, INSIDE),
    [W, H] = reach(given, UNDECIDED)
  return Math.min(w / Math.max(1, W), h / Math.max(1, H))
}
