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
import { learnBoth, refine } from '../segment/objectCut'
import { nearAny } from '../segment/nearAny'
import { opaqueOnly } from '../segment/opaqueOnly'
import { BY_OUTLINE, type RegionTree } from '../segment/mergeCost'
import { cutTreeByArea, makeRegionTree } from '../segment/regionTree'
import { stateToMatte } from '../segment/softEdge'
import { type Things, thingsOf } from '../segment/things'
import { segmentView, wholeOf } from '../segment/view'
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
  readonly tree: RegionTree
  /** Its picture, and those between it and the full one, full size first. */ readonly levels: readonly Picture[]
}

/** A picture's tree of regions, made once. */
export function pictureRegions(scene: Scene, sample: Sample, context: Context): PictureRegions {
  const key = `regions ${scene.identity(sample)}`,
    known = context.memory.get<PictureRegions>(key)
  if (known) return known
  const levels = [...segmentView(scene, sample, context).levels]
  while (levels.length > 1 && levels.at(-2)!.width * levels.at(-2)!.height <= MOST_PIXELS) levels.pop()
  const things = thingsOf(scene, sample, { ...context, check: (p) => context.check(0.5 * p) }),
    { width, height } = levels.at(-1)!
  const tree = makeRegionTree(calmed(labPlanes(levels.at(-1)!)), {
      mergeCost: BY_OUTLINE,
      standsOut: things ? enlarged(things, { width, height }) : undefined,
      check: (p) => context.check(0.5 + 0.5 * p),
    }),
    made = { tree, levels }
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

/** Which pixels of the tree's level lie in a region that holds one of the points: 1, else 0; null when no point lies in the picture. */
export function regionsHolding(
  { tree, levels }: PictureRegions,
  at: RegionsFields['at'],
  detail: number,
): Uint8Array | null {
  const top = cutTreeByArea(tree, LARGEST * FINER ** -detail * tree.width * tree.height),
    scale = 2 ** (levels.length - 1),
    wanted = new Set<number>()
  for (const [x, y] of at) {
    const u = Math.floor(x / scale),
      v = Math.floor(y / scale)
    if (x >= 0 && y >= 0 && x < levels[0].width && y < levels[0].height)
      wanted.add(top[tree.basinOf[Math.min(tree.height - 1, v) * tree.width + Math.min(tree.width - 1, u)]])
  }
  if (!wanted.size) return null
  const inside = new Uint8Array(tree.basins)
  for (let basin = 0; basin < tree.basins; basin++) if (wanted.has(top[basin])) inside[basin] = 1
  return mapInto(new Uint8Array(tree.basinOf.length), tree.basinOf, (basin) => inside[basin])
}

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
  find(scene, params, context) {
    const nothing = (why: string): Found => ({ ...emptyMatte(scene), note: `Nothing found, because ${why}.` })
    if (!params.at.length) return nothing('no region is picked yet')
    const all = pictureRegions(scene, params.sample, { ...context, check: (p) => context.check(0.5 * p) }),
      inside = regionsHolding(all, params.at, params.detail)
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
