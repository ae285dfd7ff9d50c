/** The records a project is made of: plain JSON, never mutated; pixels are computed from them. Their schemas are what page and server check them by, and make their types. */
import * as v from 'valibot'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { type Fill, fillProblem } from '@/core/compose/fill'
import { BLEND_MODES } from '@/core/compose/modes'
import { parseRecipe, parseStep } from '@/core/formats/recipe'
import { type Size } from '@/core/raster/picture'
import { type StepOfKind } from '@/core/steps/registry'
import { inTodaysWords, wiresAsStored } from './earlierWords'
import { LIMITS, WIDEST_RIM } from './limits'
import {
  affine,
  by,
  flag,
  id,
  listOf,
  name,
  numberOf,
  once,
  oneOf,
  optional,
  or,
  ProjectError,
  type RecordOf,
  recordOf,
  type Schema,
  share,
  valueOf,
  without,
} from './schema'

const side = valueOf<number>(
  `a whole number of px from 1 to ${LIMITS.side}`,
  (n) => Number.isInteger(n) && (n as number) >= 1 && (n as number) <= LIMITS.side,
)
const sides = { width: side, height: side }
const tooLarge = ({ width, height }: Size): string | undefined =>
  width * height > LIMITS.pixels ? `: takes at most ${LIMITS.pixels / 1e6} megapixels.` : undefined
/** Whole px. */
const size: Schema<Size> = without(recordOf('a width and a height', sides), tooLarge)
const recipe = by((value, path) => parseRecipe(wiresAsStored(value), path))
const fill = by((value, path): Fill => {
  const problem = fillProblem(value)
  if (problem) throw new ProjectError(`${path}: takes ${problem}.`)
  return inTodaysWords(value) as Fill
})

const savedSelection = recordOf('a saved selection', { id, name, recipe })
/** A selection kept under a name. */
export type SavedSelection = RecordOf<typeof savedSelection.entries>
const savedSelections = or(listOf('saved selections', savedSelection, LIMITS.kept), [])

const savedPath = recordOf('a path', {
  id,
  name,
  /** SVG path data, canvas px. */
  d: by((d, path) => (parseStep({ kind: 'path', d }, path) as StepOfKind<'path'>).d),
})
/** A Bézier path kept under a name. */
export type SavedPath = RecordOf<typeof savedPath.entries>

const guide = recordOf('a guide', {
  id,
  axis: oneOf(['x', 'y']),
  /** From the left (x) or the top (y). */
  at: numberOf(-2 * LIMITS.side, 2 * LIMITS.side, 'px'),
})
/** A line to snap to. */
export type Guide = RecordOf<typeof guide.entries>

const areaFields = {
  recipe,
  /** The canvas the steps' coordinates refer to. */
  frame: size,
  /** Which layer of the scene `sample: "layer"` means. */
  sceneLayer: id,
  /** The saved selections its steps name, as they were then. */
  saved: savedSelections,
}
/** Steps, and what they look at: kept together, so that they stay editable wherever they go. */
export type Area = RecordOf<typeof areaFields> & {
  /** The layers as they were when the steps were made: the id of one of the project's scenes. (Records of earlier versions have the layers here.) */
  readonly scene: string | readonly Layer[]
}

const maskFields = {
  enabled: flag,
  /** From the frame's pixels to the layer's. */
  toLayer: affine,
  /** px of the frame; absent: 0. */
  feather: optional(numberOf(0, LIMITS.side, 'px')),
  /** How much the mask counts; absent: 1. */
  strength: optional(share),
  invert: optional(flag),
  /** True when the mask stays where it is while the picture moves. */
  unlinked: optional(flag),
  /** What lies beyond the frame is shown; absent: hidden. */
  outsideShown: optional(flag),
  /** How far colours of the old backdrop are taken out of soft pixels of a picture layer; absent: 0. The picture itself stays as it is. */
  fringe: optional(share),
  /** A rim so wide along the edge takes colours from deeper inside, px; absent: 0. */
  rim: optional(numberOf(0, WIDEST_RIM, 'px')),
}
/** A layer mask: a selection recipe the layer owns. */
export type LayerMask = Area & RecordOf<typeof maskFields>

const itemFields = {
  id,
  fill,
  erase: flag,
  strength: share,
  /** From the pixels of the area's canvas to the layer's. */
  toLayer: affine,
}
export type PaintItem = RecordOf<typeof itemFields> & {
  /** Where it is painted, in the pixels of a canvas. */
  readonly area: Area
}

const layerFields = {
  id,
  name,
  /** The size it is placed by, px: the picture's own, or the canvas's when it was made. */
  ...sides,
  /** From the layer's pixels to the canvas's. */
  placement: affine,
  opacity: share,
  visible: flag,
  /** Absent: normal. */
  blend: optional(oneOf(BLEND_MODES)),
  /** Shows only where the layer below it in its group shows. */
  clipped: optional(flag),
  /** Cannot be moved, painted on or removed. */
  locked: optional(flag),
  /** The group it lies in; absent: none. */
  parent: optional(id),
  /** A piece that was cut out of the layer below: laid back, both make the whole again. */
  joins: optional(flag),
}
const kind = <const K extends string>(of: K) => v.literal(of)
const pictureFields = {
  kind: kind('picture'),
  /** SHA-256 of the picture file. */
  asset: valueOf<string>('a SHA-256 in hexadecimal', (hash) => typeof hash === 'string' && /^[0-9a-f]{64}$/.test(hash)),
}
/** A colour or a gradient, its ends in the layer's pixels. */
const fillFields = { kind: kind('fill'), fill }
const paintFields = { kind: kind('paint') }
const adjustFields = {
  kind: kind('adjust'),
  adjustment: by(parseAdjustment),
  /** The values as they were measured, where it was made by what was measured: marks to come back to. Of the same kind. */
  measured: optional(by(parseAdjustment)),
}
const groupFields = {
  kind: kind('group'),
  /** Its layers are drawn as if they stood in its place; otherwise by themselves first. */
  passThrough: flag,
}
type AnyLayer = RecordOf<typeof layerFields> & { readonly mask: LayerMask | null }
export type PictureLayer = AnyLayer & RecordOf<typeof pictureFields>
export type FillLayer = AnyLayer & RecordOf<typeof fillFields>
/** Paint, first to last: each area filled, or rubbed out. */
export type PaintLayer = AnyLayer & RecordOf<typeof paintFields> & { readonly items: readonly PaintItem[] }
/** Changes everything below it in its group; only the layer below when clipped. */
export type AdjustLayer = AnyLayer & RecordOf<typeof adjustFields>
export type GroupLayer = AnyLayer & RecordOf<typeof groupFields>
export type Layer = PictureLayer | FillLayer | PaintLayer | AdjustLayer | GroupLayer

/** Layers, with masks and paint whose areas may hold layers of their own (`deeper`), in records of earlier versions. */
function layersOver(deeper: Schema<readonly Layer[]>, upmost: boolean): Schema<readonly Layer[]> {
  const scene: Schema<string | readonly Layer[]> = v.lazy((value) => (typeof value === 'string' ? id : deeper)),
    area: Schema<Area> = recordOf('an area', { ...areaFields, scene }),
    mask = v.pipe(
      v.unknown(),
      v.transform(inTodaysMask),
      v.nullable(recordOf('a mask or null', { ...areaFields, scene, ...maskFields })),
    ),
    item: Schema<PaintItem> = recordOf('a piece of paint', { ...itemFields, area }),
    items = or(listOf('pieces of paint', item, LIMITS.items), []),
    any = { ...layerFields, mask }
  const kinds = v.variant(
      'kind',
      [
        recordOf('a layer', { ...any, ...pictureFields }),
        recordOf('a layer', { ...any, ...fillFields }),
        recordOf('a layer', { ...any, ...paintFields, items }),
        recordOf('a layer', { ...any, ...adjustFields }),
        recordOf('a layer', { ...any, ...groupFields }),
      ],
      ({ path }) => (path ? ': takes one of picture, fill, paint, adjust, group.' : ': takes a layer.'),
    ),
    layer: Schema<Layer> = without(kinds, (of) => tooLarge(of) ?? otherKind(of))
  return without(listOf('layers', upmost ? once(layer) : layer, LIMITS.layers), groupProblem)
}
/** A mask as earlier versions called its fields. */
const inTodaysMask = (value: unknown): unknown => {
  const mask = value as { density?: unknown; strength?: unknown } | null
  return typeof mask === 'object' && mask?.density !== undefined
    ? { ...mask, strength: mask.strength ?? mask.density }
    : value
}
const otherKind = (layer: Layer): string | undefined =>
  layer.kind === 'adjust' && layer.measured && layer.measured.kind !== layer.adjustment.kind
    ? `.measured.kind: takes the adjustment's own, ${layer.adjustment.kind}.`
    : undefined
/** Groups lie in groups, none in itself, and not too deep. */
function groupProblem(layers: readonly Layer[]): string | undefined {
  const byId = new Map(layers.map((layer) => [layer.id, layer])),
    parentOf = ({ parent }: Layer) => (parent ? byId.get(parent) : undefined)
  for (const [i, layer] of layers.entries()) {
    if (layer.parent && parentOf(layer)?.kind !== 'group') return `[${i}].parent: takes the id of a group.`
    const around = new Set<Layer>()
    for (let group = parentOf(layer); group && !around.has(group); group = parentOf(group)) around.add(group)
    if (around.has(layer)) return `[${i}].parent: takes the id of a group that does not lie in this one.`
    if (around.size + (layer.kind === 'group' ? 1 : 0) > LIMITS.groups)
      return `[${i}]: groups lie in groups up to ${LIMITS.groups} deep.`
  }
  return undefined
}

const tooDeep = without(
  v.unknown() as Schema<readonly Layer[]>,
  () => `: masks made on masked layers are nested deeper than ${LIMITS.nesting} times.`,
)
let layers = tooDeep
for (let depth: number = LIMITS.nesting; depth >= 0; depth--) layers = layersOver(layers, depth === 0)

const keptScene = recordOf('a scene', { id, layers, linear: optional(flag) })
/** The layers at some time, for steps that look at them. Bottom first. */
export type KeptScene = RecordOf<typeof keptScene.entries>

const window = recordOf('a window', {
  cx: numberOf(-1e6, 1e6, 'px'),
  cy: numberOf(-1e6, 1e6, 'px'),
  ...sides,
  turn: numberOf(-360, 360, 'degrees'),
})
/** A part of the canvas by its middle, its size in whole px, and its turn in degrees clockwise. */
export type Window = RecordOf<typeof window.entries>

/** Where a picture does not say: the resolution of print (common practice). */
export const USUAL_PPI = 300

export const projectSchema = recordOf('a project', {
  version: v.literal(1),
  name,
  canvas: size,
  /** What of the canvas is shown and delivered; absent: all of it. */
  window: optional(without(window, tooLarge)),
  /** Pixels per inch: what a millimetre is. */
  ppi: or(numberOf(1, 10_000, 'pixels per inch'), USUAL_PPI),
  /** Bottom first. Layers of a group name it as their parent; the order among them is the order here. */
  layers,
  /** Blends in linear light; absent: in sRGB values. */
  linear: optional(flag),
  /** What the steps of masks and paint look at; absent: none. */
  scenes: optional(listOf('scenes', once(keptScene), LIMITS.scenes)),
  activeLayer: v.nullable(id),
  selection: recipe,
  saved: savedSelections,
  paths: or(listOf('paths', savedPath, LIMITS.kept), []),
  guides: or(listOf('guides', guide, LIMITS.kept), []),
})
export type Project = RecordOf<typeof projectSchema.entries>

/** Where a list of steps lives: the selection itself, or a layer's mask. */
export type RecipeHome = { readonly kind: 'selection' } | { readonly kind: 'mask'; readonly layer: string }
export const SELECTION: RecipeHome = { kind: 'selection' }

export interface Picture {
  readonly asset: string
  readonly width: number
  readonly height: number
  readonly name: string
  /** Pixels per inch, where its file says so. */ readonly ppi?: number | null
}

/** What steps are folded over: layers, which of them is the active one, and what both name. */
export interface SceneRecord {
  readonly layers: readonly Layer[]
  readonly active: string | null
  readonly canvas: Size
  readonly saved: readonly SavedSelection[]
  readonly scenes: readonly KeptScene[]
  readonly linear: boolean
}
