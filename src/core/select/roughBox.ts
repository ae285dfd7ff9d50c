/**
 * Rough box: a sloppy box or loop around a thing finds the thing.
 *
 * Two first guesses are cut by colours and contrast in turn: what the network expects in the box, and what is not easily reached from around it and
 * does not look like it (geodesic distance over regions). Taken is the object whose outline lies on edges, which looks least like what surrounds it,
 * and which is most as expected; it is carried to full size. Without the network the second guess is beside one by what it costs to merge a region into the surroundings.
 * Sources: Rother, Kolmogorov and Blake 2004; Wei, Wen, Zhu and Sun, "Geodesic saliency using background priors", ECCV 2012 (surroundings are
 * what the border reaches); Lempitsky, Kohli, Rother and Sharp, "Image segmentation with a bounding box prior", ICCV 2009 (the object fills its box).
 */
import { roughBox as roughBoxStep, type RoughBoxFields } from '../steps/roughBox'
import { emptyMatte } from '../raster/picture'
import { boundsOfPoints } from '../segment/bounds'
import { INSIDE, OUTSIDE, UNDECIDED } from '../segment/gridCut'
import { outOfFocus } from '../segment/focus'
import { guessByReach, guessByTree } from '../segment/guess'
import { keepObject } from '../segment/keepObject'
import { calmed } from '../segment/labPlanes'
import { colourOverlap } from '../segment/colourOverlap'
import { likely } from '../network/likelihood'
import { THINGS_VERSION } from '../network/network'
import { agreement, CALM, EXPECTED, expectation, sureOf } from '../segment/expectation'
import { cutSmall, learnBoth, type Models, refine } from '../segment/objectCut'
import { mapInto } from '../raster/mapInto'
import { outlineStrength } from '../segment/outlineStrength'
import { regionGraph, type RegionGraph } from '../segment/regionGraph'
import { colourGradient } from '../segment/basins'
import { makeRegionTree } from '../segment/regionTree'
import { stateToMatte } from '../segment/softEdge'
import { frameAround, type SegmentView, segmentView } from '../segment/view'
import { fillPolygons, type Point } from '../vector/fill'
import { type Context, type Finder, type Found, type Scene } from './finder'
import { type Sample } from '../steps/step'

/** How far around the box surroundings are learnt, as a share of its sides, and at least px. */
const MARGIN = 0.5,
  LEAST_MARGIN = 24
const REGIONS = 400
/** The object spans at least this share of the box in both directions. */
const LEAST_SPAN = 0.66
/** And at least this share of its area. */
const LEAST_FILL = 0.1
/** An object as good as this needs no second guess. */
const SURE = 8
/** A guess that takes likeness into account also finds openings: it is preferred when its outline is nearly as good as the other's. */
const PREFERENCE = 1.15

export const roughBox: Finder<'roughBox', RoughBoxFields> = {
  ...roughBoxStep,
  version: THINGS_VERSION,
  find(scene, params, context) {
    const loop = loopOf(params),
      nothing = (note: string): Found => ({ ...emptyMatte(scene), note })
    if (loop.length < 3) return nothing('Nothing found, because the outline has fewer than three points.')
    const bounds = boundsOfPoints(loop)
    if (bounds[2] - bounds[0] < 2 || bounds[3] - bounds[1] < 2)
      return nothing('Nothing found, because the box is smaller than two pixels.')
    if (bounds[2] <= 0 || bounds[3] <= 0 || bounds[0] >= scene.width || bounds[1] >= scene.height)
      return nothing('Nothing found, because the box lies outside the picture.')
    if (!params.analyse) return fillPolygons(scene, [loop], 'evenodd')
    return objectIn(scene, loop, params, context)
  },
}

const loopOf = ({ box, outline }: RoughBoxFields): readonly Point[] =>
  outline ??
  (box
    ? [
        [Math.min(box[0], box[2]), Math.min(box[1], box[3])],
        [Math.max(box[0], box[2]), Math.min(box[1], box[3])],
        [Math.max(box[0], box[2]), Math.max(box[1], box[3])],
        [Math.min(box[0], box[2]), Math.max(box[1], box[3])],
      ]
    : [])

function objectIn(
  scene: Scene,
  loop: readonly Point[],
  { sample, smoothEdge }: RoughBoxFields & { sample: Sample },
  context: Context,
): Found {
  const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
  const frame = frameAround(boundsOfPoints(loop), MARGIN, LEAST_MARGIN, scene)!
  const view = segmentView(scene, sample, context, frame),
    small = view.levels.length - 1
  const given = (level: number): Uint8Array => givenBy(view, loop, level)
  const start = given(small),
    undecided = start.reduce((sum, s) => sum + (s === UNDECIDED ? 1 : 0), 0)
  if (undecided === 0) return nothing('there is nothing inside the box')
  context.check(0.05)
  const best = context.network === false ? byRegions(view, start, context) : byNetwork(view, start, loop, context)
  if (!best) return nothing('the box leaves nothing around it to tell the thing from: leave some space')
  if (!best.state.includes(INSIDE)) return nothing('nothing inside the box stands out from what surrounds it')
  const { state, models, sure } = best,
    full = refine(state, { levels: view.levels, models, givenAt: given, sure }, (p) => context.check(0.6 + 0.35 * p))
  return stateToMatte(full, view, scene, smoothEdge)
}

interface Cut {
  readonly state: Uint8Array
  readonly models: Models
  readonly sure?: Uint8Array
}

/** An outline fainter than this (CIELAB units a pixel) is none. */
const FAINTEST = 1

/** The better of the network's guess and the one by reach, each cut with the network beside the colours. */
function byNetwork(view: SegmentView, start: Uint8Array, loop: readonly Point[], context: Context): Cut {
  const { lab } = view,
    odds = expectation(view, { box: boundsOfPoints(loop) }, false),
    expected = odds.map((nats) => EXPECTED * nats),
    probable = mapInto(new Float32Array(start.length), start, (g, i) => (g === UNDECIDED ? likely(odds[i]) : 0)),
    weight = new Float32Array(start.length).fill(1)
  context.check(0.15)
  const calm = calmed(lab),
    gradient = colourGradient(calm),
    graph = regionGraph(makeRegionTree(calm, { gradient }), lab, REGIONS),
    { outer, whole } = outsideShares(graph, start),
    reached = whole ? null : guessByReach(graph, outer, start)
  context.check(0.3)
  const cuts = [
    cutSmall({ lab, given: start, guess: probable, weight, expected, smoothness: CALM }, (p) =>
      context.check(0.3 + 0.15 * p),
    ),
    ...(reached
      ? [
          cutSmall(
            {
              lab,
              given: start,
              guess: reached,
              weight,
              expected,
              tidy: (s, e, first) => keepObject(s, e, first, lab),
            },
            (p) => context.check(0.45 + 0.15 * p),
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
    ? { ...best, sure: sureOf(odds, best.state) }
    : { ...best, state: best.state.fill(OUTSIDE) }
}

/** The best of two guesses by regions alone; null where nothing lies around the box. */
function byRegions(view: SegmentView, start: Uint8Array, context: Context): Cut | null {
  const calm = calmed(view.lab),
    gradient = colourGradient(calm),
    tree = makeRegionTree(calm, { gradient }),
    graph = regionGraph(tree, view.lab, REGIONS)
  context.check(0.3)
  const { outer, whole } = outsideShares(graph, start)
  if (whole) return null
  leaveOutOfFocus(graph, view, outer)
  const weight = new Float32Array(start.length).fill(1)
  let best: (Cut & { score: number }) | undefined
  for (const [n, guess] of [guessByReach(graph, outer, start), guessByTree(tree, graph, outer, start)].entries()) {
    if (!guess) continue
    const cut = cutSmall(
      {
        lab: view.lab,
        given: start,
        guess,
        weight,
        tidy: (s, evidence, first) => keepObject(s, evidence, first, view.lab),
      },
      (p) => context.check(0.3 + 0.15 * (n + p)),
    )
    const score = (n === 0 ? PREFERENCE : 1) * scoreOf(cut.state, start, gradient, view)
    if (!best || score > best.score) best = { ...cut, score }
    if (score >= SURE) break
  }
  return best ?? { state: start.map(() => OUTSIDE), models: learnBoth(view.lab, weight, weight) }
}

/** What is given at a level: what lies outside the loop, and what is transparent, is outside. */
function givenBy({ levels, frame }: SegmentView, loop: readonly Point[], level: number): Uint8Array {
  const picture = levels[level],
    scale = 1 / 2 ** level
  const inside = fillPolygons(
    picture,
    [loop.map(([x, y]) => [(x - frame.x) * scale, (y - frame.y) * scale])],
    'evenodd',
  ).data
  for (let i = 0; i < inside.length; i++)
    inside[i] = inside[i] < 128 || picture.data[4 * i + 3] < 128 ? OUTSIDE : UNDECIDED
  return inside
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
