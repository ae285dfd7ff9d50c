/**
 * Subject: what stands out against what touches the border, as one thing with an outline on edges.
 *
 * Several first guesses (contrast with probable background, reach from the border, the region tree) are cut, and the one whose outline
 * lies best on edges is taken. Where several things compete, `pick` chooses among them.
 * Sources: Zhu, Liang, Wei and Sun, CVPR 2014 (what is background); Rother, Kolmogorov and Blake 2004 (the cut).
 */
import { number } from '../common/fields'
import { emptyMatte, type Size } from '../raster/picture'
import { INSIDE, OUTSIDE, UNDECIDED } from '../segment/gridCut'
import { colourOverlap } from '../segment/colourOverlap'
import { FLAT, guessByReach, guessByTree } from '../segment/guess'
import { outOfFocus } from '../segment/focus'
import { keepObject } from '../segment/keepObject'
import { calmed } from '../segment/labPlanes'
import { cutSmall, type Models, refine } from '../segment/objectCut'
import { opaqueOnly } from '../segment/opaqueOnly'
import { outlineStrength } from '../segment/outlineStrength'
import { piecesOf } from '../segment/pieces'
import { regionGraph, type RegionGraph } from '../segment/regionGraph'
import { colourGradient, makeRegionTree } from '../segment/regionTree'
import { borderLength, saliency } from '../segment/saliency'
import { stateToMatte } from '../segment/softEdge'
import { segmentView } from '../segment/view'
import { type Context, type Finder, type Sample, type Scene } from './finder'

export interface SubjectFields {
  /** Which of the things that compete: 0 is what stands out most. */
  pick: number
}

const REGIONS = 300
/** A thing that covers this share of the picture is as good as a larger one. */
const LARGE = 0.3
/** Pieces of at least this share of the largest one's area compete with it. */
const COMPARABLE = 0.4
/** A region that touches the border is background from this probability on. */
const BACKGROUND = 0.65

export const subject: Finder<'subject', SubjectFields> = {
  kind: 'subject',
  finds: true,
  looksAtPixels: true,
  fields: { pick: number(0, 9, 0) },
  find(scene, params, context) {
    const found = thingsOf(scene, params.sample, context)
    if (!found) return { ...emptyMatte(scene), note: 'Nothing found, because nothing stands out from what touches the picture’s border.' }
    const { state, things, models } = found, pick = Math.min(things.length - 1, Math.floor(params.pick))
    const view = segmentView(scene, params.sample, context), small = view.levels.length - 1, across = view.lab.width
    // What the others cover is not to come back at finer levels.
    const given = (level: number): Uint8Array => {
      const { width, height } = view.levels[level], given = new Uint8Array(width * height), shift = small - level
      for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) { const i = (y >> shift) * across + (x >> shift); if (state[i] === INSIDE && !things[pick][i]) given[y * width + x] = OUTSIDE }
      return given
    }
    const full = refine(state.map((side, i) => (things[pick][i] ? side : OUTSIDE)), { levels: view.levels, models, givenAt: things.length > 1 ? given : undefined }, (p) => context.check(0.66 + 0.3 * p))
    return { ...stateToMatte(full, view, scene, true), ...(things.length > 1 ? { note: `${things.length} things compete; this is number ${pick + 1}.` } : {}) }
  },
}

interface Things { readonly state: Uint8Array; readonly things: readonly Uint8Array[]; readonly models: Models; readonly size: Size }

/** What stands out on the small level, parted into things, the likeliest first: 1 where each lies. Remembered; null where nothing stands out. */
export function thingsOf(scene: Scene, sample: Sample, context: Context): Things | null {
  const key = `subject ${scene.identity(sample)}`, known = context.memory.get<{ found: Things | null }>(key)
  if (known) return known.found
  const found = findThings(scene, sample, context)
  context.memory.set(key, { found }, found ? found.state.byteLength * (1 + found.things.length) : 1)
  return found
}

function findThings(scene: Scene, sample: Sample, context: Context): Things | null {
  const view = segmentView(scene, sample, context), start = opaqueOnly(view.levels.at(-1)!), calm = calmed(view.lab)
  const tree = makeRegionTree(calm), graph = regionGraph(tree, view.lab, REGIONS)
  context.check(0.2)
  const { background, contrast } = saliency(graph, view.lab, FLAT), border = borderLength(graph, view.lab)
  context.check(0.3)
  const outer = background.map((b, r) => (border[r] > 0 && b > BACKGROUND ? 1 : 0))
  outOfFocus(graph, view.levels, outer)?.forEach((out, r) => { if (out) outer[r] = background[r] = 1 })
  const guesses = [guessBySaliency(graph, background, contrast, start), guessByReach(graph, outer, start), guessByTree(tree, graph, outer, start)]
  const gradient = colourGradient(calm), weight = new Float32Array(start.length).fill(1)
  let best: { state: Uint8Array; models: Models; score: number } | undefined
  for (const [n, guess] of guesses.entries()) {
    if (!guess) continue
    const cut = cutSmall({ lab: view.lab, given: start, guess, weight, tidy: (s, evidence, first) => keepObject(s, evidence, first, view.lab) }, (p) => context.check(0.3 + 0.12 * (n + p)))
    const share = cut.state.reduce((sum, side) => sum + (side === INSIDE ? 1 : 0), 0) / cut.state.length
    const score = outlineStrength(cut.state, gradient, view.lab) * Math.sqrt(Math.min(LARGE, share)) * Math.sqrt(1 - colourOverlap(cut.state, view.lab))
    if (!best || score > best.score) best = { ...cut, score }
  }
  if (!best?.state.includes(INSIDE) || !best.state.includes(OUTSIDE)) return null
  return { state: best.state, models: best.models, things: thingsIn(best.state, view.lab), size: { width: view.lab.width, height: view.lab.height } }
}

/** The separate things of a cut that are of comparable size, the largest and most central first; small pieces go with the nearest in order of size. */
function thingsIn(state: Uint8Array, { width, height }: Size): Uint8Array[] {
  const { pieceOf, areas } = piecesOf(state, { width, height }, INSIDE), most = Math.max(...areas), x = new Float64Array(areas.length), y = new Float64Array(areas.length)
  for (let i = 0; i < state.length; i++) if (pieceOf[i] >= 0) { x[pieceOf[i]] += i % width; y[pieceOf[i]] += (i / width) | 0 }
  const centre = (piece: number) => [x[piece] / areas[piece], y[piece] / areas[piece]], away = (piece: number) => Math.hypot(centre(piece)[0] / width - 0.5, centre(piece)[1] / height - 0.5)
  const large = [...areas.keys()].filter((piece) => areas[piece] >= COMPARABLE * most).sort((p, q) => areas[q] * (1 - away(q)) - areas[p] * (1 - away(p)))
  const home = areas.map((_, piece) => (large.includes(piece) ? piece : large.reduce((best, p) => (Math.hypot(centre(p)[0] - centre(piece)[0], centre(p)[1] - centre(piece)[1]) < Math.hypot(centre(best)[0] - centre(piece)[0], centre(best)[1] - centre(piece)[1]) ? p : best))))
  return large.map((piece) => Uint8Array.from(pieceOf, (p) => (p >= 0 && home[p] === piece ? 1 : 0)))
}

/** How probably each pixel stands out, even odds at the value that parts the regions best (Otsu 1979). */
function guessBySaliency(graph: RegionGraph, background: Float32Array, contrast: Float32Array, given: Uint8Array): Float32Array | null {
  const value = contrast.map((c, r) => c * (1 - background[r])), bins = new Float64Array(64)
  const most = value.reduce((a, b) => Math.max(a, b), 0)
  if (most < 1e-6) return null
  for (let r = 0; r < graph.count; r++) bins[Math.min(63, Math.floor((64 * value[r]) / most))] += graph.area[r]
  let total = 0, mass = 0
  bins.forEach((n, k) => { total += n; mass += n * k })
  let below = 0, belowMass = 0, best = -1, at = 32
  for (let k = 0; k < 63; k++) {
    below += bins[k]; belowMass += bins[k] * k
    if (below === 0 || below === total) continue
    const between = below * (total - below) * (belowMass / below - (mass - belowMass) / (total - below)) ** 2
    if (between > best) { best = between; at = k + 1 }
  }
  const middle = (at / 64) * most
  return Float32Array.from(given, (g, i) => { if (g !== UNDECIDED) return 0; const v = value[graph.regionOf[i]]; return (v * v) / (v * v + middle * middle) })
}
