/** The records a project is made of. Plain JSON, never mutated; pixels are computed from them. */
import { type AdjustmentRecord } from '@/core/compose/adjustments/registry'
import { type Fill } from '@/core/compose/fill'
import { type BlendMode } from '@/core/compose/modes'
import { type Affine } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type Recipe } from '@/core/steps/registry'

/** Steps, and what they look at: kept together, so that they stay editable wherever they go. */
export interface Area {
  readonly recipe: Recipe
  /** The canvas the steps' coordinates refer to. */
  readonly frame: Size
  /** The layers as they were when the steps were made: the id of one of the project's scenes. (Records of earlier versions have the layers here.) */
  readonly scene: string | readonly Layer[]
  /** Which of them `sample: "layer"` means. */
  readonly sceneLayer: string
  /** The saved selections its steps name, as they were then. */
  readonly saved: readonly SavedSelection[]
}

/** A layer mask: a selection recipe the layer owns. */
export interface LayerMask extends Area {
  readonly enabled: boolean
  /** From the frame's pixels to the layer's. */
  readonly toLayer: Affine
  /** px of the frame; absent: 0. */
  readonly feather?: number
  /** How much the mask counts, 0-1; absent: 1. */
  readonly strength?: number
  readonly invert?: boolean
  /** True when the mask stays where it is while the picture moves. */
  readonly unlinked?: boolean
  /** What lies beyond the frame is shown; absent: hidden. */
  readonly outsideShown?: boolean
  /** How far colours of the old backdrop are taken out of soft pixels of a picture layer, 0-1; absent: 0. The picture itself stays as it is. */
  readonly fringe?: number
  /** A rim so wide along the edge takes colours from deeper inside, px, up to 10; absent: 0. */
  readonly rim?: number
}

/** The layers at some time, for steps that look at them. Bottom first. */
export interface KeptScene {
  readonly id: string
  readonly layers: readonly Layer[]
  readonly linear?: boolean
}

/** A selection kept under a name. */
export interface SavedSelection {
  readonly id: string
  readonly name: string
  readonly recipe: Recipe
}
/** A Bézier path kept under a name: SVG path data, canvas px. */
export interface SavedPath {
  readonly id: string
  readonly name: string
  readonly d: string
}
/** A line to snap to: at `at` px from the left (x) or the top (y). */
export interface Guide {
  readonly id: string
  readonly axis: 'x' | 'y'
  readonly at: number
}

interface AnyLayer {
  readonly id: string
  readonly name: string
  /** The size it is placed by, px: the picture's own, or the canvas's when it was made. */
  readonly width: number
  readonly height: number
  /** From the layer's pixels to the canvas's. */
  readonly placement: Affine
  /** 0-1. */
  readonly opacity: number
  readonly visible: boolean
  readonly mask: LayerMask | null
  /** Absent: normal. */
  readonly blend?: BlendMode
  /** Shows only where the layer below it in its group shows. */
  readonly clipped?: boolean
  /** Cannot be moved, painted on or removed. */
  readonly locked?: boolean
  /** The group it lies in; absent: none. */
  readonly parent?: string
  /** A piece that was cut out of the layer below: laid back, both make the whole again. */
  readonly joins?: boolean
}
export interface PictureLayer extends AnyLayer {
  readonly kind: 'picture'
  /** SHA-256 of the picture file. */ readonly asset: string
}
/** A colour or a gradient, its ends in the layer's pixels. */
export interface FillLayer extends AnyLayer {
  readonly kind: 'fill'
  readonly fill: Fill
}
/** Paint, first to last: each area filled, or rubbed out. */
export interface PaintLayer extends AnyLayer {
  readonly kind: 'paint'
  readonly items: readonly PaintItem[]
}
export interface PaintItem {
  readonly id: string
  readonly fill: Fill
  readonly erase: boolean
  /** 0-1. */ readonly strength: number
  /** Where it is painted, in the pixels of a canvas, and the map from there to the layer's. */ readonly area: Area
  readonly toLayer: Affine
}
/** Changes everything below it in its group; only the layer below when clipped. */
export interface AdjustLayer extends AnyLayer {
  readonly kind: 'adjust'
  readonly adjustment: AdjustmentRecord
  /** The values as they were measured, where it was made by what was measured: marks to come back to. Of the same kind. */
  readonly measured?: AdjustmentRecord
}
export interface GroupLayer extends AnyLayer {
  readonly kind: 'group'
  /** Its layers are drawn as if they stood in its place; otherwise by themselves first. */ readonly passThrough: boolean
}
export type Layer = PictureLayer | FillLayer | PaintLayer | AdjustLayer | GroupLayer

/** A part of the canvas by its middle, its size in whole px, and its turn in degrees clockwise. */
export interface Window {
  readonly cx: number
  readonly cy: number
  readonly width: number
  readonly height: number
  readonly turn: number
}

export interface Project {
  readonly version: 1
  readonly name: string
  readonly canvas: Size
  /** What of the canvas is shown and delivered; absent: all of it. */
  readonly window?: Window
  /** Pixels per inch: what a millimetre is. */
  readonly ppi: number
  /** Bottom first. Layers of a group name it as their parent; the order among them is the order here. */
  readonly layers: readonly Layer[]
  /** Blends in linear light; absent: in sRGB values. */
  readonly linear?: boolean
  /** What the steps of masks and paint look at; absent: none. */
  readonly scenes?: readonly KeptScene[]
  readonly activeLayer: string | null
  readonly selection: Recipe
  readonly saved: readonly SavedSelection[]
  readonly paths: readonly SavedPath[]
  readonly guides: readonly Guide[]
}

/** Where a list of steps lives: the selection itself, or a layer's mask. */
export type RecipeHome = { readonly kind: 'selection' } | { readonly kind: 'mask'; readonly layer: string }
export const SELECTION: RecipeHome = { kind: 'selection' }

/** Where a picture does not say: the resolution of print (common practice). */
export const USUAL_PPI = 300

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
