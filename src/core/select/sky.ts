/**
 * Sky: by what its regions look like and where they lie; openings between branches are found by colour, twigs and wires kept.
 *
 * How probably each region is sky (segment/skyRegions.ts) is the first guess, which is cut and carried to full size. What does not hang together
 * with the sky on top (water, walls) counts where it is sky all but surely, or as small openings above the lowest sky.
 * Source of the cut: Boykov and Jolly, ICCV 2001.
 */
import { sky as skyStep, type SkyFields } from '../steps/sky'
import { withRoom } from '../kernels'
import { gaussianBlur } from '../raster/gaussian'
import { grow } from '../raster/grow'
import { emptyMatte, type Matte, shares, type Size } from '../raster/picture'
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
import { segmentView, type SegmentView } from '../segment/view'
import { type Sample } from '../steps/step'
import { type Context, type Finder, type Found, type Scene } from './finder'

const REGIONS = 500
/** What is as probable as this on average is sky, wherever it lies. */
const SURE = 0.85
/** More than this share of the picture is no sky with something before it, but a picture of one thing. */
export const EVERYTHING = 0.985
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
  const { graph, gradient } = skyRegionsOf(view)
  context.check(0.25)
  const probable = skyProbability(graph, gradient, view.lab)
  if (!probable.some((p) => p > 0.5)) return 'nothing in it looks like sky'
  const given = opaqueOnly(view.levels[small]),
    guess = mapInto(new Float32Array(given.length), given, (g, i) =>
      g === UNDECIDED ? probable[graph.regionOf[i]] : 0,
    )
  const likely: Probable = (x, y) => probable[graph.regionOf[Math.floor(y * height) * width + Math.floor(x * width)]],
    tidy = (state: Uint8Array) => keepSky(state, params.fillGaps, view.lab, likely)
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
  keepLargeSky(full, params.fillGaps, view.levels[0], likely)
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

/** The regions of the small level, and its gradient. */
export function skyRegionsOf({ lab }: SegmentView): { graph: RegionGraph; gradient: Float32Array } {
  const calm = calmed(lab),
    gradient = colourGradient(calm)
  return { gradient, graph: regionGraph(makeRegionTree(calm, { gradient }), lab, REGIONS) }
}

/** How probably a place is sky; x and y as shares of the picture. */
type Probable = (x: number, y: number) => number

/**
 * Sky hangs together from the top, or is sky all but surely; wires and twigs do not part it. Other pieces are openings: the smaller they are
 * beside the sky the more willingly they are taken, and only above its lowest place.
 */
function keepSky(state: Uint8Array, fillGaps: number, { width, height }: Size, probable: Probable): void {
  const joined = nearAny(
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
  const kept = areas.map(
    (area, piece) => isSky[piece] || (fillGaps > 0 && lowest[piece] <= bottom && area <= fillGaps * main),
  )
  for (let i = 0; i < state.length; i++) if (state[i] === INSIDE && !kept[pieceOf[i]]) state[i] = OUTSIDE
}

/** The same for a large picture, thought out at a size where it is quick. */
function keepLargeSky(state: Uint8Array, fillGaps: number, { width, height }: Size, probable: Probable): void {
  let shift = 0
  while ((width >> shift) * (height >> shift) > MOST_PIECED) shift++
  if (shift === 0) {
    keepSky(state, fillGaps, { width, height }, probable)
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
    keepSky(stack.bytes(small, across * down), fillGaps, { width: across, height: down }, probable)
    run.keepInside(large, width, height, shift, small, across)
    state.set(stack.bytes(large, state.length))
  })
}
