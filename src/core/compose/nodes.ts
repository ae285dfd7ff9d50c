/**
 * What a composition is made of: layers as they are drawn, bottom first. A node says all that decides how it looks in its `key`, so what
 * lies below a changing layer is drawn once. `P` is what stands for a picture: its pixels here, its name on the way to another thread.
 */
import { type Affine } from '../raster/affine'
import { type Matte, type Picture, type Size } from '../raster/picture'
import { type AdjustmentRecord } from './adjustments/registry'
import { type Fill } from './fill'
import { type BlendMode } from './modes'

/** A picture, or the part of one that begins at (left, top). */
export interface PicturePart extends Picture {
  readonly left?: number
  readonly top?: number
}
export interface DecodedPicture {
  /** Mip levels, full size first; the first ones may be parts, of what will be looked at. */ readonly levels: readonly PicturePart[]
  readonly opaque: boolean
  /** All of its size, where the first level is a part. */ readonly size?: Size
}

export interface PlacedMask {
  /** Mip levels, full size first. */
  readonly levels: readonly Matte[]
  /** From the mask's pixels to the canvas's. */
  readonly toCanvas: Affine
  /** How much the mask counts, 0-1: at 0 everything shows. */
  readonly strength?: number
  readonly invert?: boolean
  /** Beyond the mask's raster: shown, instead of hidden. Before it is inverted. */
  readonly outsideShown?: boolean
}

interface Common {
  /** Everything that decides how the node looks; absent: nothing is remembered about it. */
  readonly key?: string
  /** 0-1. */
  readonly opacity: number
  readonly blend?: BlendMode
  readonly mask?: PlacedMask
  /** Drawn only where there is something below it in its group. */
  readonly atop?: boolean
  /** A piece of what lies below it: where both cover a pixel in part, they cover different parts of it. Source of the operator: X Rendering Extension, “disjoint over”. */
  readonly joins?: boolean
}
export interface PictureNode<P = DecodedPicture> extends Common {
  readonly kind: 'picture'
  readonly picture: P
  readonly toCanvas: Affine
}
/** A colour or gradient over all of the canvas. `toCanvas` takes the gradient's points along. */
export interface FillNode extends Common {
  readonly kind: 'fill'
  readonly fill: Fill
  readonly toCanvas: Affine
}
/** Changes what lies below it in its group. */
export interface AdjustNode extends Common {
  readonly kind: 'adjust'
  readonly adjustment: AdjustmentRecord
}
/** Drawn by itself and then laid in (isolated), or as if its children stood in its place (pass-through). */
export interface GroupNode<P = DecodedPicture> extends Common {
  readonly kind: 'group'
  readonly passThrough: boolean
  readonly children: readonly Node<P>[]
}
export type Node<P = DecodedPicture> = PictureNode<P> | FillNode | AdjustNode | GroupNode<P>

/** The same composition with other stand-ins for its pictures; what has none is left out. */
export function withPictures<P, Q>(
  nodes: readonly Node<P>[],
  pictureOf: (picture: P, node: PictureNode<P>) => Q | null,
): Node<Q>[] {
  return nodes.flatMap((node): Node<Q>[] => {
    if (node.kind === 'group') return [{ ...node, children: withPictures(node.children, pictureOf) }]
    if (node.kind !== 'picture') return [node]
    const picture = pictureOf(node.picture, node)
    return picture === null ? [] : [{ ...node, picture }]
  })
}
