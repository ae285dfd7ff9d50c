/**
 * What stands out against what touches the picture's border, as one thing or several, each with an outline on edges.
 *
 * What the network takes for the subject is cut along edges. Without it, and as a second opinion, several first guesses (contrast with probable
 * background, reach from the border, the region tree) are cut, and the one whose outline lies best on edges is taken, less what sticks out of it.
 * Sources: Zhu, Liang, Wei and Sun, CVPR 2014 (what is background); Rother, Kolmogorov and Blake 2004 (the cut).
 */
import { mapInto } from '../raster/mapInto'
import { type Size } from '../raster/picture'
import { type Memory } from '../cache/lruCache'
import { INSIDE, OUTSIDE, UNDECIDED } from './gridCut'
import { bestCut } from './bestCut'
import { colourOverlap } from './colourOverlap'
import { FLAT, guessByReach, guessByTree, partingValue } from './guess'
import { outOfFocus } from './focus'
import { calmed } from './labPlanes'
import { learnThing, type Models } from './learnColours'
import { cutSmall, type SmallAnswer } from './objectCut'
import { opaqueOnly } from './opaqueOnly'
import { outlineStrength } from './outlineStrength'
import { withoutOverhangs } from './overhangs'
import { piecesOf } from './pieces'
import { regionGraph, type RegionGraph } from './regionGraph'
import { colourGradient } from './basins'
import { makeRegionTree } from './regionTree'
import { borderLength, saliency } from './saliency'
import { type Hints, likely } from '../network/likelihood'
import { agreement, CALM, dropUnexpected, EXPECTED, expectation } from './expectation'
import { type Sample, type SegmentView, segmentView, type Sight } from './view'

const REGIONS = 300
/** A thing that covers this share of the picture is as good as a larger one. */
const LARGE = 0.3
/** Pieces of at least this share of the largest one's area compete with it. */
const COMPARABLE = 0.4
/** A region that touches the border is background from this probability on. */
const BACKGROUND = 0.65

/** What is looked at, and how far the work is, 0-1. */
interface Work {
  readonly memory: Memory
  /** False: without the network. */ readonly network?: boolean
  check(progress: number): void
}

export interface Things {
  readonly state: Uint8Array
  readonly things: readonly Uint8Array[]
  /** The colours inside and outside that each thing was cut by. */
  readonly models: readonly Models[]
  readonly size: Size
}

/** What stands out on the small level, parted into things, the likeliest first: 1 where each lies. Remembered; null where nothing stands out. */
export const standingOut = (scene: Sight, sample: Sample, context: Work): Things | null =>
  remembered('standing out', scene, sample, context, () =>
    findStandingOut(segmentView(scene, sample, context), context),
  )

/** The same, and what else may be meant, to choose from. Remembered. */
export const thingsOf = (scene: Sight, sample: Sample, context: Work): Things | null =>
  remembered('subject', scene, sample, context, () => {
    const found = standingOut(scene, sample, { ...context, check: (p) => context.check(0.7 * p) })
    return found && context.network !== false
      ? withOthers(found, segmentView(scene, sample, context), (p) => context.check(0.7 + 0.3 * p))
      : found
  })

function remembered(
  name: string,
  scene: Sight,
  sample: Sample,
  { memory, network }: Work,
  find: () => Things | null,
): Things | null {
  const key = `${name} ${scene.identity(sample)}${network === false ? ' without network' : ''}`,
    known = memory.get<{ found: Things | null }>(key)
  if (known) return known.found
  const found = find()
  memory.set(key, { found }, found ? found.state.byteLength * (1 + found.things.length) : 1)
  return found
}

/** Taken is the cut whose likeliest thing looks least like the rest and is most as expected; the other, where it is another thing, is there to choose, too. */
function findStandingOut(view: SegmentView, context: Work): Things | null {
  const start = opaqueOnly(view.levels.at(-1)!),
    plain = byContrast(view, start, context)
  if (context.network === false) return plain && parted(plain, view.lab)
  const network = byNetwork(view, start, oddsOf(view), (p) => context.check(0.9 + 0.1 * p)),
    [first, second] = [network, plain]
      .filter((cut) => cut !== null)
      .map((cut) => judged(parted(cut, view.lab), view))
      .sort((a, b) => b.score - a.score)
  if (!first) return null
  return second ? withAnother(first.found, likeliestOf(second.found)) : first.found
}

/** What was found by asking for something that nobody has said must be so much better than what stands out. */
const UNASKED = 0.9

/** What stands out, and what else may be meant, the better first. */
function withOthers(found: Things, view: SegmentView, check: (progress: number) => void): Things {
  const start = opaqueOnly(view.levels.at(-1)!),
    all = [judged(found, view)]
  asked(view).forEach((hints, k, { length }) => {
    check(k / length)
    const cut = byNetwork(view, start, expectation(view, hints, true), (p) => check((k + p) / length))
    if (cut) all.push(judged(likeliestOf(parted(cut, view.lab)), view, UNASKED))
  })
  const [first, ...others] = all.sort((a, b) => b.score - a.score)
  return others.reduce((known, other) => withAnother(known, other.found), first.found)
}

/** What the network takes for the subject of a view, where nothing is said. */
const nothingSaid = new WeakMap<SegmentView, Float32Array>()
function oddsOf(view: SegmentView): Float32Array {
  const known = nothingSaid.get(view) ?? expectation(view, {}, true)
  nothingSaid.set(view, known)
  return known
}

/** How good what was found is, by its likeliest thing: unlike the rest, and as expected; 0-1. */
function judged(found: Things, view: SegmentView, share = 1): { found: Things; score: number } {
  const state = found.things[0].map((one) => (one ? INSIDE : OUTSIDE)),
    start = opaqueOnly(view.levels.at(-1)!)
  return { found, score: share * (1 - colourOverlap(state, view.lab)) * agreement(state, oddsOf(view), start) }
}

const likeliestOf = ({ things, models, ...rest }: Things): Things => ({
  ...rest,
  things: things.slice(0, 1),
  models: models.slice(0, 1),
})

/** With those things of another cut that are not known. */
function withAnother(found: Things, { things, models }: Things): Things {
  const other = things.map((thing) => !found.things.some((known) => sharedBy(known, thing) >= ANOTHER))
  return {
    ...found,
    things: [...found.things, ...things.filter((_, i) => other[i])],
    models: [...found.models, ...models.filter((_, i) => other[i])],
  }
}

/** What else may be meant: what lies in the middle, what all but fills the picture. */
function asked({ frame, levels: [{ width, height }] }: SegmentView): Hints[] {
  const x = (share: number) => frame.x + share * width,
    y = (share: number) => frame.y + share * height
  return [{ keep: [[x(0.5), y(0.5)]] }, { box: [x(INSET), y(INSET), x(1 - INSET), y(1 - INSET)] }]
}
const INSET = 0.04

function parted({ state, models }: SmallAnswer, { width, height }: Size): Things {
  const size = { width, height },
    things = thingsIn(state, size)
  return { state, things, models: things.map(() => models), size }
}

/** What shares less than this with every thing so far (intersection over union) is another one. */
const ANOTHER = 0.6

function sharedBy(a: Uint8Array, b: Uint8Array): number {
  let both = 0,
    either = 0
  for (let i = 0; i < a.length; i++) {
    if (a[i] && b[i]) both++
    if (a[i] || b[i]) either++
  }
  return either ? both / either : 1
}

/** What looks as like its surroundings as this (overlap of colours, 0-1) does not stand out. */
const ALIKE = 0.98

/** What the network takes for the subject, cut along edges; null where that is nothing, or everything, or nothing else than what lies around. */
function byNetwork(
  view: SegmentView,
  start: Uint8Array,
  odds: Float32Array,
  check: (progress: number) => void,
): SmallAnswer | null {
  const cut = cutSmall(
    {
      lab: view.lab,
      given: start,
      guess: mapInto(new Float32Array(start.length), start, (g, i) => (g === UNDECIDED ? likely(odds[i]) : 0)),
      weight: new Float32Array(start.length).fill(1),
      expected: odds.map((nats) => EXPECTED * nats),
      tidy: (s) => dropUnexpected(s, odds, view.lab),
      learn: learnThing,
      smoothness: CALM,
    },
    check,
  )
  if (!cut.state.includes(INSIDE) || !cut.state.includes(OUTSIDE)) return null
  return colourOverlap(cut.state, view.lab) < ALIKE ? cut : null
}

/** What stands out by contrast, reach and the region tree, less what sticks out of it into the surroundings. */
function byContrast(view: SegmentView, start: Uint8Array, context: Work): SmallAnswer | null {
  const calm = calmed(view.lab),
    gradient = colourGradient(calm)
  const tree = makeRegionTree(calm, { gradient }),
    graph = regionGraph(tree, view.lab, REGIONS)
  context.check(0.3)
  const { background, contrast } = saliency(graph, view.lab, FLAT),
    border = borderLength(graph, view.lab)
  context.check(0.45)
  const outer = background.map((b, r) => (border[r] > 0 && b > BACKGROUND ? 1 : 0))
  outOfFocus(graph, view.levels, outer)?.forEach((out, r) => {
    if (out) outer[r] = background[r] = 1
  })
  const guesses = [
    guessBySaliency(graph, background, contrast, start),
    guessByReach(graph, outer, start),
    guessByTree(tree, graph, outer, start),
    guessByTree(tree, graph, outer, start, true),
  ]
  const best = bestCut(
    guesses,
    { lab: view.lab, given: start },
    (state) => {
      const share = state.reduce((sum, side) => sum + (side === INSIDE ? 1 : 0), 0) / state.length
      return (
        outlineStrength(state, gradient, view.lab) *
        Math.sqrt(Math.min(LARGE, share)) *
        Math.sqrt(1 - colourOverlap(state, view.lab))
      )
    },
    (p) => context.check(0.45 + 0.52 * p),
  )
  if (!best?.state.includes(INSIDE) || !best.state.includes(OUTSIDE)) return null
  return { state: best.state, models: withoutOverhangs(best, graph, tree, view.lab) }
}

/** The separate things of a cut that are of comparable size, the largest and most central first; small pieces go with the nearest in order of size. */
function thingsIn(state: Uint8Array, { width, height }: Size): Uint8Array[] {
  const { pieceOf, areas } = piecesOf(state, { width, height }, INSIDE),
    most = Math.max(...areas),
    x = new Float64Array(areas.length),
    y = new Float64Array(areas.length)
  for (let i = 0; i < state.length; i++)
    if (pieceOf[i] >= 0) {
      x[pieceOf[i]] += i % width
      y[pieceOf[i]] += (i / width) | 0
    }
  const centre = (piece: number) => [x[piece] / areas[piece], y[piece] / areas[piece]],
    away = (piece: number) => Math.hypot(centre(piece)[0] / width - 0.5, centre(piece)[1] / height - 0.5)
  const large = [...areas.keys()]
    .filter((piece) => areas[piece] >= COMPARABLE * most)
    .sort((p, q) => areas[q] * (1 - away(q)) - areas[p] * (1 - away(p)))
  const home = areas.map((_, piece) =>
    large.includes(piece)
      ? piece
      : large.reduce((best, p) =>
          Math.hypot(centre(p)[0] - centre(piece)[0], centre(p)[1] - centre(piece)[1]) <
          Math.hypot(centre(best)[0] - centre(piece)[0], centre(best)[1] - centre(piece)[1])
            ? p
            : best,
        ),
  )
  return large.map((piece) =>
    mapInto(new Uint8Array(state.length), pieceOf, (p) => (p >= 0 && home[p] === piece ? 1 : 0)),
  )
}

/** How probably each pixel stands out, even odds at the value that parts the regions best. */
function guessBySaliency(
  graph: RegionGraph,
  background: Float32Array,
  contrast: Float32Array,
  given: Uint8Array,
): Float32Array | null {
  const value = contrast.map((c, r) => c * (1 - background[r])),
    middle = partingValue(value, graph.area)
  return middle > 0
    ? mapInto(new Float32Array(given.length), given, (g, i) => {
        if (g !== UNDECIDED) return 0
        const v = value[graph.regionOf[i]]
        return (v * v) / (v * v + middle * middle)
      })
    : null
}
