/**
 * Sky: from the top of the picture down, by colour, smoothness and reach; openings between branches are found by colour, twigs and wires kept.
 *
 * Regions that touch the top and are smooth and of a sky's colour are where it starts; what is reached from there without crossing an edge is
 * the first guess, which is cut and carried to full size. What is of the same colour but does not hang together with it (water, walls) counts
 * only as small openings above the lowest sky.
 * Sources: Boykov and Jolly, ICCV 2001 (the cut); that sky is smooth, lies on top and lightens downwards is common practice in sky detection,
 * e.g. Zafarifar and de With, "Blue sky detection for picture quality enhancement", ACIVS 2006.
 */
import { sky as skyStep, type SkyFields } from '../steps/sky'
import { withRoom } from '../kernels'
import { gaussianBlur } from '../raster/gaussian'
import { grow } from '../raster/grow'
import { emptyMatte, type Matte, shares, type Size } from '../raster/picture'
import { mapInto } from '../raster/mapInto'
import { INSIDE, OUTSIDE, UNDECIDED } from '../segment/gridCut'
import { FLAT } from '../segment/guess'
import { calmed } from '../segment/labPlanes'
import { cutSmall, refine } from '../segment/objectCut'
import { nearAny } from '../raster/nearAny'
import { opaqueOnly } from '../segment/opaqueOnly'
import { piecesOf } from '../segment/pieces'
import { colourDifference, geodesicDistance, regionGraph, type RegionGraph } from '../segment/regionGraph'
import { colourGradient } from '../segment/basins'
import { makeRegionTree } from '../segment/regionTree'
import { stateToMatte } from '../segment/softEdge'
import { segmentView } from '../segment/view'
import { type Sample } from '../steps/step'
import { type Context, type Finder, type Found, type Scene } from './finder'

const REGIONS = 500
/** A region starts the sky when its mean gradient is below this (CIELAB units a pixel), it is at least this light, and no greener or redder (a*) than these. */
const SMOOTH = 2.2,
  LIGHT = 22,
  GREENEST = -14,
  REDDEST = 40
/** The share of the picture's top side that such regions must touch. */
const LEAST_TOP = 0.03
/** As far as this from where it starts a region is as likely sky as not, CIELAB units. */
const HALFWAY = 14
/** More than this share of the picture is no sky, but a picture of one thing. */
const EVERYTHING = 0.985
/** What looking like where the sky starts costs, and how much more at the bottom of the picture, CIELAB units. */
const JUMP = 6,
  DOWN = 30
/** Below this share of the picture a replaced sky looks odd (common practice). */
const ODD_SHARE = 0.2
/** Without any detail a colour must speak this loudly to be heard, and separating two alike neighbours costs this much, nats. */
const LOUDEST = 2,
  SMOOTHEST = 1.3
/** What is thinner than twice this share of the picture's diagonal does not part the sky. */
const WIRE = 0.0016
/** Pieces are told apart in pictures of at most so many pixels. */
const MOST_PIECED = 1_600_000
/** Full blend softens the boundary by this share of the picture's diagonal (sigma). */
const BLEND = 0.0006

export const sky: Finder<'sky', SkyFields> = {
  ...skyStep,
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    const found = skyIn(scene, params, context)
    if (typeof found === 'string') return nothing(found)
    const share = shares(found).selected
    if (share < 1e-4) return nothing('what looks like sky is smaller than a speck')
    if (share > EVERYTHING) return nothing('the picture looks alike from top to bottom')
    return {
      ...found,
      note:
        share < ODD_SHARE
          ? `The sky is ${(100 * share).toFixed(0)} % of the picture: below a fifth, a new sky will look odd.`
          : `The sky is ${(100 * share).toFixed(0)} % of the picture.`,
    }
  },
}

/** The sky in a picture, which may be all of it; or why there is none. */
export function skyIn(scene: Scene, params: SkyFields & { readonly sample: Sample }, context: Context): Matte | string {
  const view = segmentView(scene, params.sample, context),
    small = view.levels.length - 1,
    { width, height } = view.lab
  const calm = calmed(view.lab),
    gradient = colourGradient(calm),
    graph = regionGraph(makeRegionTree(calm, { gradient }), view.lab, REGIONS)
  context.check(0.25)
  const start = startingRegions(graph, gradient, view.lab)
  if (!start) return 'nothing smooth and of a sky’s colour touches the top of the picture'
  const begins = [...start.keys()].filter((r) => start[r] === 0)
  // What looks like it may be sky seen through an opening, the less probably the lower it lies.
  const alike = start.map((s, r) =>
    s === 0
      ? 0
      : JUMP +
        (DOWN * graph.middle[r * 2 + 1]) / height +
        begins.reduce((least, q) => Math.min(least, colourDifference(graph, r, q)), Infinity),
  )
  const distance = geodesicDistance(graph, alike, FLAT),
    given = opaqueOnly(view.levels[small])
  const guess = mapInto(new Float32Array(given.length), given, (g, i) =>
    g === UNDECIDED ? 1 / (1 + (distance[graph.regionOf[i]] / HALFWAY) ** 4) : 0,
  )
  const tidy = (state: Uint8Array) => keepSky(state, params.fillGaps, view.lab)
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
      loud: Math.max(0.8, LOUDEST * (1 - params.detail)),
      smoothness: SMOOTHEST * (1 - params.detail),
      reach: 1 << 12,
    },
    (p) => context.check(0.55 + 0.4 * p),
  )
  keepLargeSky(full, params.fillGaps, view.levels[0])
  let matte: Matte = stateToMatte(full, view, scene, true)
  if (params.offset !== 0) matte = grow(matte, params.offset)
  if (params.blend > 0)
    matte = {
      width: matte.width,
      height: matte.height,
      data: gaussianBlur(matte, params.blend * BLEND * Math.hypot(width << small, height << small)).data,
    }
  return matte
}

/** 0 for the regions the sky starts from, infinite for others; null where there are none. */
function startingRegions(graph: RegionGraph, gradient: Float32Array, { width }: Size): Float32Array | null {
  const top = new Float32Array(graph.count),
    steep = new Float32Array(graph.count)
  for (let x = 0; x < width; x++) top[graph.regionOf[x]]++
  for (let i = 0; i < gradient.length; i++) steep[graph.regionOf[i]] += gradient[i]
  let touched = 0
  const start = Float32Array.from({ length: graph.count }, (_, r) => {
    const [L, a, b] = graph.colour.subarray(r * 3, r * 3 + 3)
    if (
      top[r] === 0 ||
      steep[r] / graph.area[r] > SMOOTH ||
      L < LIGHT ||
      a < GREENEST ||
      a > REDDEST ||
      (b > 45 && L < 55)
    )
      return Infinity
    touched += top[r]
    return 0
  })
  return touched >= LEAST_TOP * width ? start : null
}

/**
 * Sky hangs together from the top; wires and twigs do not part it. Other pieces are openings: the smaller they are beside the sky the more
 * willingly they are taken, and only above its lowest place.
 */
function keepSky(state: Uint8Array, fillGaps: number, { width, height }: Size): void {
  const joined = nearAny(
    state,
    (side) => side === INSIDE,
    width,
    height,
    Math.max(1, Math.round(WIRE * Math.hypot(width, height))),
  )
  const { pieceOf, areas } = piecesOf(joined, { width, height }, 1),
    atTop = new Uint8Array(areas.length),
    lowest = new Int32Array(areas.length)
  for (let x = 0; x < width; x++) if (state[x] === INSIDE) atTop[pieceOf[x]] = 1
  let main = 0,
    bottom = 0
  for (let i = 0; i < state.length; i++) if (state[i] === INSIDE) lowest[pieceOf[i]] = (i / width) | 0
  areas.forEach((area, piece) => {
    if (atTop[piece] && area > main) {
      main = area
      bottom = lowest[piece]
    }
  })
  const kept = areas.map(
    (area, piece) => atTop[piece] === 1 || (fillGaps > 0 && lowest[piece] <= bottom && area <= fillGaps * main),
  )
  for (let i = 0; i < state.length; i++) if (state[i] === INSIDE && !kept[pieceOf[i]]) state[i] = OUTSIDE
}

/** The same for a large picture, thought out at a size where it is quick. */
function keepLargeSky(state: Uint8Array, fillGaps: number, { width, height }: Size): void {
  let shift = 0
  while ((width >> shift) * (height >> shift) > MOST_PIECED) shift++
  if (shift === 0) {
    keepSky(state, fillGaps, { width, height })
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
    keepSky(stack.bytes(small, across * down), fillGaps, { width: across, height: down })
    run.keepInside(large, width, height, shift, small, across)
    state.set(stack.bytes(large, state.length))
  })
}
