/**
 * A project's layers as OpenRaster has them: pictures, and stacks of them. Source: OpenRaster specification 0.0.6, "Layer Stack Specification": operators by
 * name, isolation, the uppermost first. What it has no words for is drawn: an adjustment, or a mode it does not list, becomes a picture of all that lies
 * below it in its group, and what was drawn into that stays beside it, hidden.
 */
import { type BlendMode } from '@/core/compose/modes'
import { childrenOf, withDescendants } from './tree'
import { type GroupLayer, type Layer } from './records'

export interface OraCommon {
  readonly name: string
  /** 0-1. */
  readonly opacity: number
  readonly visible: boolean
  /** "svg:multiply" and so on. */
  readonly operator: string
}
export interface OraLayer extends OraCommon {
  readonly kind: 'layer'
  /** What is drawn for it: layers as if there were no others. */
  readonly draw: readonly Layer[]
}
export interface OraStack extends OraCommon {
  readonly kind: 'stack'
  readonly isolated: boolean
  /** Bottom first. */
  readonly children: readonly OraNode[]
}
export type OraNode = OraLayer | OraStack

export const OVER = 'svg:src-over',
  ATOP = 'svg:src-atop',
  WITHIN = 'svg:dst-in'
/** Of the standard's modes all but one. */
export const OPERATOR_OF: Readonly<Partial<Record<BlendMode, string>>> = {
  normal: OVER,
  multiply: 'svg:multiply',
  screen: 'svg:screen',
  overlay: 'svg:overlay',
  darken: 'svg:darken',
  lighten: 'svg:lighten',
  'color-dodge': 'svg:color-dodge',
  'color-burn': 'svg:color-burn',
  'hard-light': 'svg:hard-light',
  'soft-light': 'svg:soft-light',
  difference: 'svg:difference',
  hue: 'svg:hue',
  saturation: 'svg:saturation',
  color: 'svg:color',
  luminosity: 'svg:luminosity',
}
const modeOf = ({ blend }: Layer): BlendMode => blend ?? 'normal'
const operator = (layer: Layer): string => OPERATOR_OF[modeOf(layer)] ?? OVER
/** By itself, as it is before it is laid over anything. */
const plain = (layer: Layer): Layer => {
  const { parent, blend, clipped, joins, ...rest } = layer
  void [parent, blend, clipped, joins]
  return { ...rest, opacity: 1, visible: true }
}
const rooted = (layer: Layer): Layer => {
  const { parent, ...rest } = layer
  void parent
  return rest
}

/** @returns bottom first */
export function openRasterTree(layers: readonly Layer[], parent?: string): OraNode[] {
  const siblings = childrenOf(layers, parent),
    whole = (layer: Layer, own: Layer): Layer[] => [own, ...withDescendants(layers, layer.id).slice(1)]
  let out: OraNode[] = []
  for (let i = 0; i < siblings.length;) {
    const base = siblings[i]
    let end = i + 1
    if (base.kind !== 'adjust') while (siblings[end]?.clipped) end++
    const clipped = siblings.slice(i + 1, end)
    i = end
    if (needsBelow(layers, base)) {
      if (!base.visible) {
        if (base.kind !== 'adjust') out.push(...unit(layers, base, clipped, whole))
        continue
      }
      const before: OraNode[] = out.length
        ? [
            {
              kind: 'stack',
              name: `${base.name}: what lies below`,
              opacity: 1,
              visible: false,
              operator: OVER,
              isolated: true,
              children: out,
            },
          ]
        : []
      const draw = siblings.slice(0, end).flatMap((each) => whole(each, rooted(each)))
      out = [...before, { kind: 'layer', name: base.name, opacity: 1, visible: true, operator: OVER, draw }]
    } else out.push(...unit(layers, base, clipped, whole))
  }
  return out
}

/** A layer with what is clipped to it. */
function unit(
  layers: readonly Layer[],
  base: Layer,
  clipped: readonly Layer[],
  whole: (layer: Layer, own: Layer) => Layer[],
): OraNode[] {
  const common = { name: base.name, opacity: base.opacity, visible: base.visible, operator: operator(base) }
  if (!clipped.length) {
    if (base.kind !== 'group') return [{ ...common, kind: 'layer', draw: [plain(base)] }]
    return [{ ...common, ...stackOf(layers, base) }]
  }
  // Only "atop" itself has a name: another mode, or an adjustment, is drawn into one picture with what it is clipped to.
  const named = clipped.every((each) => each.kind !== 'adjust' && modeOf(each) === 'normal')
  if (!named)
    return [
      {
        ...common,
        kind: 'layer',
        draw: [...whole(base, plain(base)), ...clipped.flatMap((each) => whole(each, rooted(each)))],
      },
    ]
  const own =
    base.kind === 'group'
      ? stackOf(layers, { ...base, passThrough: false })
      : ({ kind: 'layer', draw: [plain(base)] } as const)
  return [
    {
      ...common,
      kind: 'stack',
      isolated: true,
      children: [
        { name: base.name, opacity: 1, visible: true, operator: OVER, ...own },
        ...clipped.map((each): OraNode => ({
          name: each.name,
          opacity: each.opacity,
          visible: each.visible,
          operator: ATOP,
          ...(each.kind === 'group'
            ? stackOf(layers, { ...each, passThrough: false })
            : ({ kind: 'layer', draw: [plain(each)] } as const)),
        })),
      ],
    },
  ]
}

function stackOf(layers: readonly Layer[], group: GroupLayer): Pick<OraStack, 'kind' | 'isolated' | 'children'> {
  const children = openRasterTree(layers, group.id),
    { mask } = group
  // A mask is one more layer, which leaves of the stack what it covers.
  if (mask?.enabled)
    children.push({
      kind: 'layer',
      name: `Mask of ${group.name}`,
      opacity: 1,
      visible: true,
      operator: WITHIN,
      draw: [maskAlone(group)],
    })
  return { kind: 'stack', isolated: !group.passThrough || Boolean(mask?.enabled) || group.opacity < 1, children }
}
/** White where a group's mask covers. */
const maskAlone = (group: GroupLayer): Layer => ({
  id: group.id,
  kind: 'fill',
  name: group.name,
  width: group.width,
  height: group.height,
  placement: group.placement,
  opacity: 1,
  visible: true,
  mask: group.mask,
  fill: { kind: 'colour', colour: '#ffffff' },
})

/** True where a layer cannot be told without what lies below it. */
function needsBelow(layers: readonly Layer[], layer: Layer): boolean {
  if (layer.kind === 'adjust' || layer.joins || !OPERATOR_OF[modeOf(layer)]) return true
  if (layer.kind !== 'group' || !layer.passThrough) return false
  // Passed through and mixed in: only what is simply laid over comes to the same by itself.
  const mixed = Boolean(layer.mask?.enabled) || layer.opacity < 1 || modeOf(layer) !== 'normal',
    inside = childrenOf(layers, layer.id)
  return inside.some(
    (each) =>
      needsBelow(layers, each) || (mixed && (modeOf(each) !== 'normal' || (each.kind === 'group' && each.passThrough))),
  )
}
