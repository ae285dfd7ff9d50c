/**
 * Sky: by what its regions look like, where they lie and what the network makes of them; openings between branches are found by colour, twigs and wires kept.
 *
 * How probably each region is sky (segment/skyRegions.ts) is the first guess, which is cut and carried to full size. What does not hang together
 * with the sky on top (water, walls) counts where it is sky all but surely, or as small openings above the lowest sky.
 * Source of the cut: Boykov and Jolly, ICCV 2001.
 */
import { sky as skyStep, smallSkyNote, type SkyFields } from '../steps/sky'
import { withRoom } from '../kernels'
import { withinReach } from '../raster/distance'
import { emptyMatte, type Matte, type Size } from '../raster/picture'
import { tallyOf } from '../raster/tally'
import { mapInto } from '../raster/mapInto'
import { INSIDE, OUTSIDE, UNDECIDED } from '../segment/gridCut'
import { calmed } from '../segment/labPlanes'
import { cutSmall, refine } from '../segment/objectCut'
import { nearAny } from '../raster/nearAny'
import { opaqueOnly } from '../segment/opaqueOnly'
import { piecesOf } from '../segment/pieces'
import { regionGraph, type RegionGraph } from '../segment/regionGraph'
import { colourGradient } from '../segment/basins'
import { makeRegionTree } from '../segment/regionTree'
import { stateToMatte } from '../segment/softEdge'
import { skyProbability } from '../segment/skyRegions'
import { skySeen } from '../segment/skySeen'
import { segmentView, type SegmentView } from '../segment/view'
import { type Sample } from '../steps/step'
import { type Context, type Finder, type Found, type Scene } from './finder'

const REGIONS = 500
/** What is as probable as this on average is sky, wherever it lies. */
const SURE = 0.6
/** More than this share of the picture is no sky with something before it, but a picture of one thing. */
export const EVERYTHING = 0.985
/** A colour must speak this loudly to be heard against what lies around it, and separating two alike neighbours costs this much, nats. */
const LOUD = 1.4,
  SMOOTHNESS = 0.91
/** What is thinner than twice this share of the picture's diagonal does not part the sky. */
const WIRE = 0.0016
/** Pieces are told apart in pictures of at most so many pixels. */
const MOST_PIECED = 1_600_000

export const sky: Finder<'sky', SkyFields> = {
  ...skyStep,
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    const found = skyIn(scene, params, context)
    if (typeof found === 'string') return nothing(found)
    const share = tallyOf(found).selected
    if (share < 1e-4) return nothing('what looks like sky is smaller than a speck')
    if (share > EVERYTHING) return nothing('the picture looks alike from top to bottom')
    return {
      ...found,
      note: smallSkyNote(share) ?? `The sky is ${(100 * share).toFixed(0)} % of the picture.`,
    }
  },
}

/** The sky in a picture, which may be all of it; or why there is none. */
export function skyIn(scene: Scene, params: SkyFields & { readonly sample: Sample }, context: Context): Matte | string {
  const view = segmentView(scene, params.sample, context),
    small = view.levels.length - 1,
    { width, height } = view.lab
  // First: a page that has no weights for it yet begins again when they are there.
  const seen = context.network === false ? null : skySeen(view)
  context.check(0.1)
  const { graph, gradient } = skyRegionsOf(view)
  context.check(0.25)
  const probable = skyProbability(graph, gradient, view.lab, seen)
  if (!probable.some((p) => p > 0.5)) return 'nothing in it looks like sky'
  const given = opaqueOnly(view.levels[small]),
    guess = mapInto(new Float32Array(given.length), given, (g, i) =>
      g === UNDECIDED ? probable[graph.regionOf[i]] : 0,
    )
  const likely: Probable = (x, y) => probable[graph.regionOf[Math.floor(y * height) * width + Math.floor(x * width)]],
    tidy = (state: Uint8Array) => keepSky(state, params.openings / 2 ** small, view.lab, likely)
  const { state, models } = cutSmall(
    { lab: view.lab, given, guess, weight: new Float32Array(given.length).fill(1), tidy },
    (p) => context.check(0.25 + 0.3 * p),
  )
  if (!state.includes(INSIDE)) return 'nothing that looks like sky hangs together from the top'
  // Below the lowest sky of the small level nothing is sky at finer ones.
  const lowest = Math.floor(state.lastIndexOf(INSIDE) / width) + 2
  const below = (level: number): Uint8Array => {
    const { width, height } = view.levels[level]
    return new Uint8Array(width * height).fill(OUTSIDE, Math.min(height, lowest << (small - level)) * width)
  }
  const full = refine(
    state,
    {
      levels: view.levels,
      models,
      givenAt: below,
      loud: LOUD,
      smoothness: SMOOTHNESS,
      reach: 1 << 12,
    },
    (p) => context.check(0.55 + 0.4 * p),
  )
  keepLargeSky(full, params.openings, view.levels[0], likely)
  if (params.twigs > TWIGS_SEEN) closeOver(full, params.twigs / 2, view.levels[0])
  return stateToMatte(full, view, scene, true)
}

/** Nothing is thinner than a pixel. */
const TWIGS_SEEN = 1
/** What is thinner than twice a radius (px) and lies in the sky becomes sky: a closing by a disc. Source: Serra, "Image Analysis and Mathematical Morphology" (1982). */
function closeOver(state: Uint8Array, radius: number, size: Size): void {
  const near = withinReach(
      state.map((side) => (side === INSIDE ? 1 : 0)),
      size,
      radius,
    ),
    open = withinReach(
      near.map((v) => 1 - v),
      size,
      radius,
    )
  for (let i = 0; i < state.length; i++) if (!open[i]) state[i] = INSIDE
}

/** The regions of the small level, and its gradient. */
export function skyRegionsOf({ lab }: SegmentView): { graph: RegionGraph; gradient: Float32Array } {
  const calm = calmed(lab),
    gradient = colourGradient(calm)
  return { gradient, graph: regionGraph(makeRegionTree(calm, { gradient }), lab, REGIONS) }
}

/** How probably a place is sky; x and y as shares of the picture. */
type Probable = (x: number, y: number) => number

/**
 * Sky hangs together from the top, or is sky all but surely; wires and twigs do not part it. Other pieces are openings: those that are nowhere wider than
 * `openings` px are taken, above the sky's lowest place.
 */
function keepSky(state: Uint8Array, openings: number, size: Size, probable: Probable): void {
  const { width, height } = size,
    joined = nearAny(
      state,
      (side) => side === INSIDE,
      width,
      height,
      Math.max(1, Math.round(WIRE * Math.hypot(width, height))),
    )
  const { pieceOf, areas } = piecesOf(joined, { width, height }, 1),
    atTop = new Uint8Array(areas.length),
    lowest = new Int32Array(areas.length),
    surely = new Float32Array(areas.length),
    pixels = new Float32Array(areas.length)
  for (let x = 0; x < width; x++) if (state[x] === INSIDE) atTop[pieceOf[x]] = 1
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (state[i] !== INSIDE) continue
      const piece = pieceOf[i]
      lowest[piece] = y
      pixels[piece]++
      surely[piece] += probable((x + 0.5) / width, (y + 0.5) / height)
    }
  const isSky = areas.map((_, piece) => atTop[piece] === 1 || surely[piece] >= SURE * pixels[piece])
  let main = 0,
    bottom = 0
  areas.forEach((area, piece) => {
    if (isSky[piece] && area > main) {
      main = area
      bottom = lowest[piece]
    }
  })
  const wide = openings > 0 ? widerThan(openings, state, pieceOf, areas.length, size) : null,
    kept = areas.map((_, piece) => isSky[piece] || (wide?.[piece] === 0 && lowest[piece] <= bottom))
  for (let i = 0; i < state.length; i++) if (state[i] === INSIDE && !kept[pieceOf[i]]) state[i] = OUTSIDE
}

/** Pieces in which a disc of that width has room somewhere: 1. */
function widerThan(across: number, state: Uint8Array, pieceOf: Int32Array, count: number, size: Size): Uint8Array {
  const wide = new Uint8Array(count),
    near = withinReach(
      state.map((side) => (side === INSIDE ? 0 : 1)),
      size,
      across / 2,
    )
  for (let i = 0; i < state.length; i++) if (state[i] === INSIDE && !near[i]) wide[pieceOf[i]] = 1
  return wide
}

/** The same for a large picture, thought out at a size where it is quick. */
function keepLargeSky(state: Uint8Array, openings: number, { width, height }: Size, probable: Probable): void {
  let shift = 0
  while ((width >> shift) * (height >> shift) > MOST_PIECED) shift++
  if (shift === 0) {
    keepSky(state, openings, { width, height }, probable)
    return
  }
  const across = ((width - 1) >> shift) + 1,
    down = ((height - 1) >> shift) + 1
  withRoom((stack) => {
    const { run } = stack,
      large = stack.take(state.length),
      small = stack.take(across * down)
    stack.bytes(large, state.length).set(state)
    run.shrinkInside(large, width, height, shift, small, across, down)
    keepSky(stack.bytes(small, across * down), openings / 2 ** shift, { width: across, height: down }, probable)
    run.keepInside(large, width, height, shift, small, across)
    state.set(stack.bytes(large, state.length))
  })
}
