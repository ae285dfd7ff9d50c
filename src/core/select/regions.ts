/**
 * Regions: what holds the given points, coarser or finer: the thing they lie on, as keep marks there find it, and finer its parts, regions of the
 * picture's own hierarchy. That tree is made once for a picture, at a level small enough, and knows what stands out, so that a thing's parts go
 * together before they go with what lies around them; a chosen region's outline is then found at full size in a band around it.
 */
import { regions as regionsStep, type RegionsFields } from '../steps/regions'
import { emptyMatte, type Picture } from '../raster/picture'
import { mapInto } from '../raster/mapInto'
import { INSIDE, OUTSIDE } from '../segment/gridCut'
import { calmed, labPlanes } from '../segment/labPlanes'
import { learnBoth } from '../segment/learnColours'
import { refine } from '../segment/objectCut'
import { nearAny } from '../raster/nearAny'
import { opaqueOnly } from '../segment/opaqueOnly'
import { BY_OUTLINE, type RegionTree } from '../segment/mergeCost'
import { cutTreeByArea, makeRegionTree, meanOf } from '../segment/regionTree'
import { draftMatte, stateToMatte } from '../segment/softEdge'
import { standingOut } from '../segment/things'
import { THINGS_VERSION } from '../network/network'
import { decideTogether } from '../segment/marksInTurn'
import { enlarged, finerView, type SegmentView, segmentView, wholeOf } from '../segment/view'
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
  /** What drafts are thought on, and what else is. */
  readonly view: SegmentView
  readonly finer: SegmentView
  readonly tree: RegionTree
  /** The basins beside each. */ readonly beside: readonly (readonly number[])[]
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
      standsOut: things ? insideOf(enlarged(things.state, things.size, { width, height })) : undefined,
      check: (p) => context.check(0.5 + 0.5 * p),
    }),
    made = { view, finer: finerView(view, context), tree, beside: besideEach(tree), levels }
  context.memory.set(
    key,
    made,
    tree.basinOf.byteLength +
      tree.parent.byteLength * 6 +
      tree.lengths.byteLength * 8 +
      tree.basins * 64 +
      levels.at(-1)!.data.byteLength,
  )
  return made
}

/** 1 where a state is inside. */
const insideOf = (state: Uint8Array): Uint8Array =>
  mapInto(new Uint8Array(state.length), state, (side) => (side === INSIDE ? 1 : 0))

/** A place is marked by a dot, px across: a pixel where it is thought on. */
const DOT = 1

/**
 * The basins that make up the thing the places lie on, as keep marks there find it: 1; null where they find none. Without the network a keep mark alone
 * does not tell a thing at the picture's border from what lies around it: then the tree tells. Remembered: a draft has what is known.
 */
function thingAt(all: PictureRegions, places: readonly Place[], key: string, context: Context): Uint8Array | null {
  if (context.network === false) return null
  const { tree } = all,
    name = `${key} thing ${places.join(' ')}`,
    quick = `${name} draft`,
    recall = (what: string) => context.memory.get<{ thing: Uint8Array | null }>(what),
    known = recall(name) ?? (context.draft ? recall(quick) : undefined)
  if (known) return known.thing
  const view = context.draft ? all.view : all.finer,
    keep = places.map((place) => ({ points: [place], size: DOT })),
    cut = decideTogether({ keep, drop: [], unsure: [], solver: 'auto' }, view, { ...context, rough: true }),
    thing = cut
      ? mapInto(new Uint8Array(tree.basins), meanOf(insideOf(enlarged(cut.state, view.lab, tree)), tree), (held) =>
          held > 0.5 ? 1 : 0,
        )
      : null
  context.memory.set(context.draft ? quick : name, { thing }, tree.basins + 2 * name.length)
  return thing
}

/** Which basins lie beside each. */
function besideEach({ pairs, basins }: RegionTree): readonly (readonly number[])[] {
  const beside: number[][] = Array.from({ length: basins }, () => [])
  for (let k = 0; k < pairs.length; k += 2) {
    beside[pairs[k]].push(pairs[k + 1])
    beside[pairs[k + 1]].push(pairs[k])
  }
  return beside
}

/** The basins of a thing that hang together with one of them. */
function pieceAt(thing: Uint8Array, first: number, beside: readonly (readonly number[])[]): number[] {
  const piece = new Set([first])
  for (const basin of piece) for (const next of beside[basin]) if (thing[next]) piece.add(next)
  return [...piece]
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
 * detail has room for it, that is the piece of the thing that the points lie on; finer, its parts.
 */
export function regionsHolding(
  all: PictureRegions,
  at: RegionsFields['at'],
  detail: number,
  key: string,
  context: Context,
): Uint8Array | null {
  const { tree, levels } = all,
    within = at.filter((place) => basinAt(tree, levels, place) !== null)
  if (!within.length) return null
  const most = LARGEST * FINER ** -detail * tree.width * tree.height,
    top = cutTreeByArea(tree, most),
    thing = thingAt(all, within, key, context),
    inside = new Uint8Array(tree.basins),
    wanted = new Set<number>()
  for (const place of within) {
    const basin = basinAt(tree, levels, place)!
    if (inside[basin]) continue
    const piece = thing?.[basin] ? pieceAt(thing, basin, all.beside) : []
    if (piece.length && areaOf(tree, piece) <= most) for (const held of piece) inside[held] = 1
    else wanted.add(top[basin])
  }
  for (let basin = 0; basin < tree.basins; basin++) if (wanted.has(top[basin])) inside[basin] = 1
  return mapInto(new Uint8Array(tree.basinOf.length), tree.basinOf, (basin) => inside[basin])
}

const areaOf = ({ area }: RegionTree, basins: readonly number[]): number =>
  basins.reduce((sum, basin) => sum + area[basin], 0)

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
  /** More than the weights: the thing at the places is what keep marks there find. */
  version: THINGS_VERSION + 2,
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    if (!params.at.length) return nothing('no region is picked yet')
    const all = pictureRegions(scene, params.sample, { ...context, check: (p) => context.check(0.5 * p) }),
      inside = regionsHolding(all, params.at, params.detail, `regions ${scene.identity(params.sample)}`, {
        ...context,
        check: (p) => context.check(0.5 + 0.2 * p),
      })
    if (!inside) return nothing('the points lie outside the picture')
    const { tree, levels } = all,
      { width, height } = tree,
      state = inside.map((value) => (value ? INSIDE : OUTSIDE))
    if (context.draft) return draftMatte(state, { frame: wholeOf(scene), levels }, scene)
    context.check(0.7)
    const lab = labPlanes(levels.at(-1)!),
      around = nearAny(inside, (value) => value === 1, width, height, Math.ceil(AROUND * Math.hypot(width, height)))
    const models = learnBoth(
      lab,
      new Float32Array(inside),
      mapInto(new Float32Array(around.length), around, (near, i) => (near && !inside[i] ? 1 : 0)),
    )
    const full = models.outside.components.length
      ? refine(state, { levels, models, loud: Infinity, smoothness: 6 }, (p) => context.check(0.7 + 0.25 * p))
      : opaqueOnly(levels[0]).map((g) => (g === OUTSIDE ? OUTSIDE : INSIDE))
    return stateToMatte(full, { frame: wholeOf(scene), levels }, scene, true)
  },
}
