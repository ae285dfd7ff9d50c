/** Layers as records to layers as they are drawn. */
import { type Node } from '@/core/compose/nodes'
import { type Affine, compose, IDENTITY, translation } from '@/core/raster/affine'
import { type Matte } from '@/core/raster/picture'
import { childrenOf } from '@/document/tree'
import { type Layer, type LayerMask, type PaintLayer, type PictureLayer } from '@/document/records'

/** What was computed of a layer's records beforehand. `key` stands for all that decided it. */
export interface MadeMask {
  readonly key: string
  readonly levels: readonly Matte[]
}
/** A painted layer as a picture of the part that has paint on it, or a masked one of the part that shows. */
export interface MadePaint<P> {
  readonly key: string
  readonly picture: P
  readonly x: number
  readonly y: number
}
export interface Made<P> {
  mask(mask: LayerMask): MadeMask | null
  paint(layer: PaintLayer): MadePaint<P> | null
  picture(asset: string): P
  /** A masked picture without the old backdrop's colours; null where there is nothing to take out, or it is not made yet. */
  fringed(layer: PictureLayer): MadePaint<P> | null
  /** From the canvas to what is drawn of it; absent: all of it. */
  readonly view?: Affine
  /** Stands in for a layer's mask, placed on the canvas. */
  readonly instead?: { readonly layer: string; readonly mask: MadeMask; readonly toCanvas: Affine }
}

/** True where a masked picture shows in the subject's own colours. A piece that is laid together with what it was cut from keeps its own: together they give the whole. */
export const takesFringeOut = ({ mask, joins }: PictureLayer): boolean =>
  Boolean(mask?.enabled && !joins && (mask.fringe || mask.rim))

/** The nodes of the layers that are shown, bottom first. A layer clipped to the one below shares a group with it; below a hidden one it is hidden, too. */
export function nodesOf<P>(layers: readonly Layer[], made: Made<P>, parent?: string): Node<P>[] {
  const out: Node<P>[] = []
  const siblings = childrenOf(layers, parent)
  for (let i = 0; i < siblings.length;) {
    let end = i + 1
    const base = siblings[i]
    // Nothing can be clipped to an adjustment: it has no form of its own.
    if (base.kind !== 'adjust') while (end < siblings.length && siblings[end].clipped) end++
    const own = base.visible ? nodeOf(layers, base, made) : null
    const clipped = own
      ? siblings.slice(i + 1, end).flatMap((layer) => {
          const node = layer.visible ? nodeOf(layers, layer, made) : null
          return node ? [{ ...node, atop: true, key: `${node.key} atop` }] : []
        })
      : []
    if (own && clipped.length) {
      const inner: Node<P> = {
        ...own,
        opacity: 1,
        blend: 'normal',
        joins: undefined,
        key: `${own.key} base`,
        ...(own.kind === 'group' ? { passThrough: false } : {}),
      }
      const children = [inner, ...clipped]
      out.push({
        kind: 'group',
        passThrough: false,
        opacity: own.opacity,
        blend: own.blend,
        joins: own.joins,
        children,
        key: keyOf(['clip', own.opacity, own.blend, own.joins], children),
      })
    } else if (own) out.push(own)
    i = end
  }
  return out
}

/** What was said of a node, and its children's keys as they are: written into each other as texts they would double with every group around them. */
const keyOf = (said: readonly unknown[], children: readonly { readonly key?: string }[] = []): string =>
  `${JSON.stringify(said)}${children.length ? `{${children.map((child) => child.key).join('\n')}}` : ''}`

function nodeOf<P>(layers: readonly Layer[], layer: Layer, made: Made<P>): Node<P> | null {
  if (layer.opacity <= 0) return null
  const { opacity, blend } = layer,
    view = made.view ?? IDENTITY,
    placement = compose(view, layer.placement)
  const instead = made.instead?.layer === layer.id ? made.instead : null
  const own = !instead && layer.mask?.enabled ? layer.mask : null
  const found = instead?.mask ?? (own ? made.mask(own) : null)
  const toCanvas = instead ? compose(view, instead.toCanvas) : own ? compose(placement, own.toLayer) : IDENTITY
  const mask = found
    ? {
        levels: found.levels,
        toCanvas,
        ...(own ? { strength: own.strength, invert: own.invert, outsideShown: own.outsideShown } : {}),
      }
    : undefined
  const common = { opacity, blend, mask, joins: layer.joins }
  const key = (said: readonly unknown[], children?: readonly { readonly key?: string }[]) =>
    `${keyOf([layer.kind, opacity, blend, layer.joins, mask && [mask.toCanvas, mask.strength, mask.invert, mask.outsideShown], ...said], children)}${found ? ` ${found.key}` : ''}`
  switch (layer.kind) {
    case 'picture': {
      const clean = own && takesFringeOut(layer) ? made.fringed(layer) : null
      if (clean) {
        const at = compose(placement, translation(clean.x, clean.y))
        return { ...common, kind: 'picture', picture: clean.picture, toCanvas: at, key: key([clean.key, at]) }
      }
      return {
        ...common,
        kind: 'picture',
        picture: made.picture(layer.asset),
        toCanvas: placement,
        key: key([layer.asset, placement]),
      }
    }
    case 'fill':
      return { ...common, kind: 'fill', fill: layer.fill, toCanvas: placement, key: key([layer.fill, placement]) }
    case 'adjust':
      return { ...common, kind: 'adjust', adjustment: layer.adjustment, key: key([layer.adjustment]) }
    case 'paint': {
      const paint = made.paint(layer)
      if (!paint) return null
      const at = compose(placement, translation(paint.x, paint.y))
      return { ...common, kind: 'picture', picture: paint.picture, toCanvas: at, key: key([paint.key, at]) }
    }
    case 'group': {
      const children = nodesOf(layers, made, layer.id)
      return children.length
        ? {
            ...common,
            kind: 'group',
            passThrough: layer.passThrough,
            children,
            key: key([layer.passThrough], children),
          }
        : null
    }
  }
}
