/** The records a project is made of. Plain JSON, never mutated; pixels are computed from them. */
import { type Affine } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type Recipe } from '@/core/select/registry'

/** A layer mask: a selection recipe the layer owns, with the scene it was picked on, so that its steps stay editable wherever the layer goes. */
export interface LayerMask {
  readonly recipe: Recipe
  readonly enabled: boolean
  /** The canvas the steps' coordinates refer to. */
  readonly frame: Size
  /** From the frame's pixels to the layer's. */
  readonly toLayer: Affine
  /** The layers as they were shown when the mask was made: what its steps look at. Bottom first. */
  readonly scene: readonly Layer[]
  /** Which of them `sample: "layer"` means. */
  readonly sceneLayer: string
}

export interface Layer {
  readonly id: string
  readonly kind: 'picture'
  readonly name: string
  /** SHA-256 of the picture file. */
  readonly asset: string
  /** The picture's size, px. */
  readonly width: number
  readonly height: number
  /** From the layer's pixels to the canvas's. */
  readonly placement: Affine
  /** 0-1. */
  readonly opacity: number
  readonly visible: boolean
  readonly mask: LayerMask | null
}

export interface Project {
  readonly version: 1
  readonly name: string
  readonly canvas: Size
  /** Bottom first. */
  readonly layers: readonly Layer[]
  readonly activeLayer: string | null
  readonly selection: Recipe
}

/** Where a list of steps lives: the selection itself, or a layer's mask. */
export type RecipeHome = { readonly kind: 'selection' } | { readonly kind: 'mask'; readonly layer: string }
export const SELECTION: RecipeHome = { kind: 'selection' }

export interface Picture { readonly asset: string; readonly width: number; readonly height: number; readonly name: string }
