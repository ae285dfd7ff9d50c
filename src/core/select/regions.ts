/**
 * Regions: those of the picture's own hierarchy that hold the given points, coarser or finer. The tree is made once for a picture, at a level
 * small enough, and knows what stands out, so that a thing's parts go together before they go with what lies around them; a chosen region's
 * outline is then found at full size in a band around it.
 */
import { regions as regionsStep, type RegionsFields } from '../steps/regions'
import { emptyMatte, type Picture, type Size } from '../raster/picture'
import { mapInto } from '../raster/mapInto'
import { INSIDE, OUTSIDE } from '../segment/gridCut'
import { calmed, labPlanes } from '../segment/labPlanes'
import { learnBoth } from '../segment/learnColours'
import { refine } from '../segment/objectCut'
import { nearAny } from '../raster/nearAny'
import { opaqueOnly } from '../segment/opaqueOnly'
import { BY_OUTLINE, type RegionTree } from '../segment/mergeCost'
import { cutTreeByArea, makeRegionTree } from '../segment/regionTree'
import { stateToMatte } from '../segment/softEdge'
import { standingOut, type Things } from '../segment/things'
import { likely } from '../network/likelihood'
import { THINGS_VERSION } from '../network/network'
import { expectation } from '../segment/expectation'
import { type SegmentView, segmentView, wholeOf } from '../segment/view'
import { traceMatte } from '../vector/trace'
import { type Context, type Finder, type Found, type Scene } from './finder'
import { type Sample } from '../steps/step'

/** The tree is made at the first level of at most so many pixels: the one that is thought on, or one above it. */
const MOST_PIXELS = 400_000
/** The share of the picture a region has at most at detail 0, and how many times less at detail 1. */
const LARGEST = 0.75,
  FINER = 1000
/** Colours outside are learnt within this share of the picture's diagonal. */
const AROUND = 0.1

export interface PictureRegions {
  readonly view: SegmentView
  readonly tree: RegionTree
  /** Its picture, and those between it and the full one, full size first. */ readonly levels: readonly Picture[]
}

/** A picture's tree of regions, made once. */
export function pictureRegions(scene: Scene, sample: Sample, context: Context): PictureRegions {
  const key = `regions ${scene.identity(sample)}`,
    known = context.memory.get<PictureRegions>(key)
  if (known) return known
  const view = segmentView(scene, sample, context),
    levels = [...view.levels]
  while (levels.length > 1 && levels.at(-2)!.width * levels.at(-2)!.height <= MOST_PIXELS) levels.pop()
  const things = standingOut(scene, sample, { ...context, check: (p) => context.check(0.5 * p) }),
    { width, height } = levels.at(-1)!
  const tree = makeRegionTree(calmed(labPlanes(levels.at(-1)!)), {
      mergeCost: BY_OUTLINE,
      standsOut: things ? enlarged(things, { width, height }) : undefined,
      check: (p) => context.check(0.5 + 0.5 * p),
    }),
    made = { view, tree, levels }
  context.memory.set(
    key,
    made,
    tree.basinOf.byteLength + tree.parent.byteLength * 6 + tree.lengths.byteLength * 4 + levels.at(-1)!.data.byteLength,
  )
  return made
}

/** 1 where something stands out, at a larger level. */
function enlarged({ state, size }: Things, { width, height }: Size): Uint8Array {
  const out = new Uint8Array(width * height),
    shift = Math.round(Math.log2(width / size.width))
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (state[(y >> shift) * size.width + (x >> shift)] === INSIDE) out[y * width + x] = 1
  return out
}

/** The whole thing at a place is taken when it is expected at least so surely there, on the average (probability). */
const SURE_OF_THING = 0.75

/**
 * The basins that make up the thing at a place, as the network expects it: 1; null where it expects none. All places are looked at together, since
 * they are mostly meant to be parts of one thing; a place that is no part of that is looked at alone.
 */
function thingAt(
  all: PictureRegions,
  place: Place,
  places: readonly Place[],
  key: string,
  context: Context,
): Uint8Array | null {
  if (context.network === false) return null
  const { tree, levels } = all,
    basin = basinAt(tree, levels, place)!,
    together = connectedBasins(tree, expectedAt(all, places, key, context), basin)
  return together || places.length < 2 ? together : connectedBasins(tree, expectedAt(all, [place], key, context), basin)
}

/** How probably each basin belongs to what lies at the places. Remembered. */
function expectedAt(
  { view, tree }: PictureRegions,
  places: readonly Place[],
  key: string,
  { memory }: Context,
): Float32Array {
  const name = `${key} expected ${places.join(' ')}`,
    known = memory.get<Float32Array>(name)
  if (known) return known
  const expected = expectedBasins(view, tree, places)
  memory.set(name, expected, expected.byteLength)
  return expected
}

function expectedBasins(
  view: SegmentView,
  { basinOf, basins, width, height }: RegionTree,
  keep: readonly Place[],
): Float32Array {
  const expected = expectation(view, { keep }, true),
    across = view.lab.width,
    shift = Math.round(Math.log2(width / across)),
    sum = new Float32Array(basins),
    count = new Float32Array(basins)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const from = Math.min(expected.length - 1, (y >> shift) * across + Math.min(across - 1, x >> shift))
      sum[basinOf[i]] += likely(expected[from])
      count[basinOf[i]]++
    }
  return sum.map((value, basin) => value / Math.max(1, count[basin]))
}

/** The likely basins that hang together with one; null where that one is not likely, or they are not likely enough together. */
function connectedBasins(
  { pairs, basins, basinOf }: RegionTree,
  probable: Float32Array,
  first: number,
): Uint8Array | null {
  if (probable[first] < 0.5) return null
  const beside: number[][] = Array.from({ length: basins }, () => [])
  for (let k = 0; k < pairs.length; k += 2) {
    beside[pairs[k]].push(pairs[k + 1])
    beside[pairs[k + 1]].push(pairs[k])
  }
  const thing = new Uint8Array(basins),
    open = [first]
  thing[first] = 1
  while (open.length)
    for (const next of beside[open.pop()!])
      if (!thing[next] && probable[next] > 0.5) {
        thing[next] = 1
        open.push(next)
      }
  let sum = 0,
    count = 0
  for (const basin of basinOf)
    if (thing[basin]) {
      sum += probable[basin]
      count++
    }
  return sum >= SURE_OF_THING * count ? thing : null
}

type Place = RegionsFields['at'][number]

/** The basin under a place, px of the picture; null outside. */
function basinAt({ basinOf, width, height }: RegionTree, levels: readonly Picture[], [x, y]: Place): number | null {
  if (x < 0 || y < 0 || x >= levels[0].width || y >= levels[0].height) return null
  const scale = 2 ** (levels.length - 1),
    [u, v] = [Math.floor(x / scale), Math.floor(y / scale)]
  return basinOf[Math.min(height - 1, v) * width + Math.min(width - 1, u)]
}

/**
 * Which pixels of the tree's level lie in a region that holds one of the points: 1, else 0; null when no point lies in the picture. As long as the
 * detail has room for it, that is the thing at the point as the network expects it; finer, its parts.
 */
export function regionsHolding(
  all: PictureRegions,
  at: RegionsFields['at'],
  detail: number,
  key: string,
  context: Context,
): Uint8Array | null {
  const { tree, levels } = all,
    most = LARGEST * FINER ** -detail * tree.width * tree.height,
    top = cutTreeByArea(tree, most),
    inside = new Uint8Array(tree.basins),
    wanted = new Set<number>()
  let any = false
  for (const place of at) {
    const basin = basinAt(tree, levels, place)
    if (basin === null) continue
    any = true
    if (inside[basin]) continue
    const thing = thingAt(all, place, at, key, context)
    if (thing && areaOf(tree, thing) <= most) thing.forEach((held, b) => (inside[b] |= held))
    else wanted.add(top[basin])
  }
  if (!any) return null
  for (let basin = 0; basin < tree.basins; basin++) if (wanted.has(top[basin])) inside[basin] = 1
  return mapInto(new Uint8Array(tree.basinOf.length), tree.basinOf, (basin) => inside[basin])
}

const areaOf = ({ area }: RegionTree, basins: Uint8Array): number =>
  basins.reduce((sum, held, basin) => sum + (held ? area[basin] : 0), 0)

/** The outline of what is 1, as SVG path data in px of the picture: along the pixels' sides of the tree's level. */
export function regionOutline(held: Uint8Array, { tree, levels }: PictureRegions): string {
  const scale = 2 ** (levels.length - 1),
    contours = traceMatte({ width: tree.width, height: tree.height, data: held.map((v) => v * 255) })
  return contours
    .map((contour) => {
      let d = ''
      for (let i = 0; i < contour.length; i += 2) d += `${i ? 'L' : 'M'}${contour[i] * scale} ${contour[i + 1] * scale}`
      return `${d}Z`
    })
    .join('')
}

export const regions: Finder<'regions', RegionsFields> = {
  ...regionsStep,
  version: THINGS_VERSION + 1,
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    if (!params.at.length) return nothing('no region is picked yet')
    const all = pictureRegions(scene, params.sample, { ...context, check: (p) => context.check(0.5 * p) }),
      inside = regionsHolding(all, params.at, params.detail, `regions ${scene.identity(params.sample)}`, context)
    if (!inside) return nothing('the points lie outside the picture')
    const { tree, levels } = all,
      lab = labPlanes(levels.at(-1)!),
      { width, height } = tree
    context.check(0.5)
    const around = nearAny(inside, (value) => value === 1, width, height, Math.ceil(AROUND * Math.hypot(width, height)))
    const models = learnBoth(
      lab,
      new Float32Array(inside),
      mapInto(new Float32Array(around.length), around, (near, i) => (near && !inside[i] ? 1 : 0)),
    )
    const state = inside.map((value) => (value ? INSIDE : OUTSIDE))
    const full = models.outside.components.length
      ? refine(state, { levels, models, loud: Infinity, smoothness: 6 }, (p) => context.check(0.5 + 0.45 * p))
      : opaqueOnly(levels[0]).map((g) => (g === OUTSIDE ? OUTSIDE : INSIDE))
    return stateToMatte(full, { frame: wholeOf(scene), levels }, scene, true)
  },
}
