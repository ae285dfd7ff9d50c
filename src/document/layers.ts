/** Changes of the layers: which there are, in which order and groups, where they lie, how they are laid in. */
import { type AdjustmentRecord } from '@/core/compose/adjustments/registry'
import { type Fill } from '@/core/compose/fill'
import { type Affine, apply, compose, IDENTITY, inverse, translation } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type FindingStep, looksAtPixels, type Recipe, type Step } from '@/core/steps/registry'
import { type Edit } from './history'
import { areaOf, maskWith } from './masks'
import { ancestorsOf, childrenOf, DEEPEST, depthWithin, withDescendants } from './tree'
import {
  type AdjustLayer,
  type FillLayer,
  type GroupLayer,
  type Layer,
  type LayerMask,
  type PaintItem,
  type PaintLayer,
  type Picture,
  type PictureLayer,
} from './types'
import { unwrap } from './unwrap'

type ProjectDraft = Parameters<Edit>[0]
const plain = (project: ProjectDraft): Layer[] => unwrap(project.layers)
const found = (project: ProjectDraft, id: string | null) => project.layers.find((layer) => layer.id === id)
const at = (project: ProjectDraft, id: string) => project.layers.findIndex((layer) => layer.id === id)

const COMMON = { placement: IDENTITY, opacity: 1, visible: true, mask: null } as const
export const layerOf = (picture: Picture, id: string, placement: Affine): PictureLayer => ({
  ...COMMON,
  id,
  kind: 'picture',
  name: picture.name,
  asset: picture.asset,
  width: picture.width,
  height: picture.height,
  placement,
})
export const fillLayer = (id: string, name: string, { width, height }: Size, fill: Fill): FillLayer => ({
  ...COMMON,
  id,
  kind: 'fill',
  name,
  width,
  height,
  fill,
})
export const paintLayer = (id: string, name: string, { width, height }: Size): PaintLayer => ({
  ...COMMON,
  id,
  kind: 'paint',
  name,
  width,
  height,
  items: [],
})
export const adjustLayer = (
  id: string,
  name: string,
  { width, height }: Size,
  adjustment: AdjustmentRecord,
): AdjustLayer => ({ ...COMMON, id, kind: 'adjust', name, width, height, adjustment })
const groupOf = (id: string, name: string, { width, height }: Size, passThrough: boolean): GroupLayer => ({
  ...COMMON,
  id,
  kind: 'group',
  name,
  width,
  height,
  passThrough,
})

function put(project: ProjectDraft, layer: Layer, index: number): void {
  project.layers.splice(index, 0, layer as never)
}

/** The layer comes in right above another one, in the same group. Null: on top of all. It becomes the active one. */
export const addLayer =
  (layer: Layer, above: string | null): Edit =>
  (project) => {
    const beside = unwrap(found(project, above)) as Layer | undefined
    put(
      project,
      { ...layer, ...(beside?.parent ? { parent: beside.parent } : {}) },
      beside ? at(project, beside.id) + 1 : project.layers.length,
    )
    project.activeLayer = layer.id
  }

/** The same; what is selected becomes its mask, and the selection starts anew. The steps look at the layers as they were without it. */
export const addLayerWithin =
  (layer: Layer, above: string | null): Edit =>
  (project) => {
    const recipe = selected(project)
    if (recipe.steps.length) {
      const looked = areaOf(project, recipe, project.activeLayer ?? layer.id)
      addLayer({ ...layer, mask: { ...looked, enabled: true, toLayer: IDENTITY } }, above)(project)
      project.selection.steps = []
    } else addLayer(layer, above)(project)
  }

/** The picture comes in right below `below` (or on top), as large as covers the canvas, in its middle; the active layer stays when it comes below. */
export const addPicture =
  (picture: Picture, id: string, below: string | null): Edit =>
  (project) => {
    const { width, height } = project.canvas
    const scale = Math.max(width / picture.width, height / picture.height)
    const cover = compose(translation((width - picture.width * scale) / 2, (height - picture.height * scale) / 2), [
      scale,
      0,
      0,
      scale,
      0,
      0,
    ])
    const layer = layerOf(
      picture,
      id,
      Math.abs(scale - 1) < 1e-9 ? (cover.map(Math.round) as unknown as Affine) : cover,
    )
    const beside = below ? (unwrap(found(project, below)) as Layer | undefined) : undefined
    put(
      project,
      { ...layer, ...(beside?.parent ? { parent: beside.parent } : {}) },
      beside ? at(project, beside.id) : project.layers.length,
    )
    if (!beside) project.activeLayer = id
  }

export type LayerChange = Partial<Pick<Layer, 'name' | 'opacity' | 'visible' | 'blend' | 'clipped' | 'locked'>> & {
  fill?: Fill
  adjustment?: AdjustmentRecord
  passThrough?: boolean
  items?: readonly PaintItem[]
}
export const changeLayer =
  (id: string, change: LayerChange): Edit =>
  (project) => {
    const layer = found(project, id)
    if (!layer) return
    // Values that are the usual ones are not written down.
    const { blend, clipped, locked, ...rest } = change
    Object.assign(layer, rest)
    if ('blend' in change) {
      if (blend && blend !== 'normal') layer.blend = blend
      else delete layer.blend
    }
    if ('clipped' in change) {
      if (clipped) layer.clipped = true
      else delete layer.clipped
    }
    if ('locked' in change) {
      if (locked) layer.locked = true
      else delete layer.locked
    }
  }
/** Puts a layer where a placement says; a group takes along all that lies in it. A mask that is not linked stays where it is. */
export const placeLayer =
  (id: string, placement: Affine): Edit =>
  (project) => {
    const before = unwrap(found(project, id)) as unknown as Layer | undefined
    if (!before) return
    let by: Affine
    try {
      by = compose(placement, inverse(before.placement))
    } catch {
      const layer = found(project, id)!
      layer.placement = [...placement] as never
      return
    }
    for (const { id: each } of withDescendants(plain(project), id)) {
      const layer = found(project, each)!,
        from = unwrap(layer.placement) as unknown as Affine,
        to = each === id ? placement : compose(by, from)
      layer.placement = [...to] as never
      if (layer.mask?.unlinked)
        try {
          layer.mask.toLayer = [...compose(compose(inverse(to), from), unwrap(layer.mask.toLayer))] as never
        } catch {
          /* flattened: the mask goes with it */
        }
    }
  }
export const activateLayer =
  (id: string): Edit =>
  (project) => {
    project.activeLayer = id
  }

export const removeLayer =
  (id: string): Edit =>
  (project) => {
    const gone = new Set(withDescendants(plain(project), id).map((layer) => layer.id))
    if (!gone.size) return
    const index = at(project, id),
      siblings = childrenOf(plain(project), found(project, id)!.parent),
      place = siblings.findIndex((layer) => layer.id === id)
    project.layers = project.layers.filter((layer) => !gone.has(layer.id))
    if (project.activeLayer && gone.has(project.activeLayer))
      project.activeLayer =
        (siblings[place - 1] ?? siblings[place + 1] ?? project.layers[Math.min(index, project.layers.length - 1)])
          ?.id ?? null
  }
/** To a place among the layers of a group (null: outside all; undefined: its own), counted from the bottom without the layer itself. Not into itself, and not too deep. */
export const moveLayer =
  (id: string, to: number, parent?: string | null): Edit =>
  (project) => {
    const layers = plain(project),
      layer = layers.find((l) => l.id === id)
    if (!layer) return
    const group = parent === undefined ? layer.parent : (parent ?? undefined)
    if (group && withDescendants(layers, id).some((l) => l.id === group)) return
    if (group && ancestorsOf(layers, group).length + 1 + depthWithin(layers, id) > DEEPEST) return
    const siblings = childrenOf(layers, group).filter((l) => l.id !== id)
    if (to < 0 || to > siblings.length) return
    const before = childrenOf(layers, layer.parent).findIndex((l) => l.id === id)
    if (group === layer.parent && before === to) return
    const [moved] = project.layers.splice(at(project, id), 1)
    if (group) moved.parent = group
    else delete moved.parent
    const next = siblings[to]
    project.layers.splice(next ? at(project, next.id) : project.layers.length, 0, moved)
  }
/** One place up or down among all rows: into an open group beside it, or out of its own at the end. */
export const stepLayer =
  (id: string, by: 1 | -1): Edit =>
  (project) => {
    const layers = plain(project),
      layer = layers.find((l) => l.id === id)
    if (!layer) return
    const siblings = childrenOf(layers, layer.parent),
      place = siblings.findIndex((l) => l.id === id),
      beside = siblings[place + by]
    if (beside?.kind === 'group') moveLayer(id, by > 0 ? 0 : childrenOf(layers, beside.id).length, beside.id)(project)
    else if (beside) moveLayer(id, place + by)(project)
    else if (layer.parent) {
      const group = layers.find((l) => l.id === layer.parent)!,
        around = childrenOf(layers, group.parent),
        groupPlace = around.findIndex((l) => l.id === group.id)
      moveLayer(id, by > 0 ? groupPlace + 1 : groupPlace, group.parent ?? null)(project)
    }
  }

/** A group in the place of the uppermost of these layers, with them in it. */
export const groupLayers =
  (ids: readonly string[], groupId: string, name: string, passThrough = true): Edit =>
  (project) => {
    const layers = plain(project),
      members = layers.filter((layer) => ids.includes(layer.id))
    const top = members.at(-1)
    if (!top) return
    put(
      project,
      { ...groupOf(groupId, name, unwrap(project.canvas), passThrough), ...(top.parent ? { parent: top.parent } : {}) },
      at(project, top.id) + 1,
    )
    for (const { id } of members) found(project, id)!.parent = groupId
    project.activeLayer = groupId
  }
/** What lies in the group takes its place. */
export const ungroup =
  (id: string): Edit =>
  (project) => {
    const group = unwrap(found(project, id)) as Layer | undefined
    if (group?.kind !== 'group') return
    const children = childrenOf(plain(project), id)
    const place = childrenOf(plain(project), group.parent).findIndex((l) => l.id === id)
    children.forEach((child, i) => moveLayer(child.id, place + i, group.parent ?? null)(project))
    project.layers.splice(at(project, id), 1)
    if (project.activeLayer === id) project.activeLayer = children.at(-1)?.id ?? project.layers.at(-1)?.id ?? null
  }

/** A copy right above, with all that lies in it. @param newId for each copied layer */
export const duplicateLayer =
  (id: string, newId: () => string): Edit =>
  (project) => {
    duplicate(project, id, newId)
  }
function duplicate(project: ProjectDraft, id: string, newId: () => string, name?: string): string | null {
  const family = withDescendants(plain(project), id)
  if (!family.length) return null
  const ids = new Map(family.map((layer) => [layer.id, newId()]))
  const copies = plain(project)
    .filter((layer) => ids.has(layer.id))
    .map((layer) => ({
      ...layer,
      id: ids.get(layer.id)!,
      ...(layer.parent && ids.has(layer.parent) ? { parent: ids.get(layer.parent) } : {}),
      ...(layer.id === id ? { name: name ?? `${layer.name} copy` } : {}),
    }))
  const top = Math.max(...family.map((layer) => at(project, layer.id)))
  copies.forEach((copy, i) => put(project, copy, top + 1 + i))
  project.activeLayer = ids.get(id)!
  return ids.get(id)!
}

/** The layer shows only where the steps select (or where they do not): as its mask, or where it has one, as the mask of a group around it. Returns the id of the outer. */
function restrict(
  project: ProjectDraft,
  id: string,
  recipe: Recipe,
  inside: boolean,
  newId: () => string,
  more: Partial<LayerMask> = {},
): string {
  const steps: Step[] = inside ? [...recipe.steps] : [...recipe.steps, { kind: 'invert', hidden: false, id: newId() }]
  const layer = found(project, id)!
  let outer = id
  if (layer.mask || layer.kind === 'group') {
    outer = newId()
    groupLayers([id], outer, layer.name, false)(project)
  }
  maskWith(project, outer, { version: 1, steps }, more)
  return outer
}

const selected = (project: ProjectDraft): Recipe => unwrap(project.selection)
/** The selected part of a layer as a layer of its own, above it, without the colours of what it stood before. */
export const liftCopy =
  (id: string, newId: () => string): Edit =>
  (project) => {
    const copy = duplicate(project, id, newId, `${found(project, id)?.name ?? ''} piece`)
    if (copy) project.activeLayer = restrict(project, copy, selected(project), true, newId, { fringe: 1 })
  }
/** The same, and the layer keeps a hole: both lie in a group by themselves, where they make the whole again as long as the piece lies in its place. */
export const cutOut =
  (id: string, newId: () => string): Edit =>
  (project) => {
    const name = found(project, id)?.name ?? '',
      recipe = selected(project)
    const copy = duplicate(project, id, newId, `${name} piece`)
    if (!copy) return
    const piece = restrict(project, copy, recipe, true, newId),
      rest = restrict(project, id, recipe, false, newId)
    const group = newId()
    groupLayers([rest, piece], group, `${name} in pieces`, false)(project)
    found(project, piece)!.joins = true
    project.activeLayer = piece
  }
/** What is selected of the layer shows no more. */
export const eraseSelected =
  (id: string, newId: () => string): Edit =>
  (project) => {
    if (found(project, id)) project.activeLayer = restrict(project, id, selected(project), false, newId)
  }
/** Everything is hidden but the layer, what lies in it and the groups around it. */
export const isolate =
  (id: string): Edit =>
  (project) => {
    const layers = plain(project),
      inside = new Set(
        withDescendants(layers, id)
          .slice(1)
          .map((layer) => layer.id),
      ),
      shown = new Set([id, ...ancestorsOf(layers, id).map((layer) => layer.id)])
    for (const layer of project.layers) if (!inside.has(layer.id)) layer.visible = shown.has(layer.id)
  }
/** A picture in the place of some layers: right above the uppermost of them, or instead of them. Then it is laid in as the lowest of them was; its opacity is in its pixels. @param activate it becomes the active layer; otherwise only where the active one goes */
export const mergeInto =
  (picture: Picture, id: string, ids: readonly string[], instead: boolean, activate = true): Edit =>
  (project) => {
    const merged = plain(project).filter((layer) => ids.includes(layer.id)),
      top = merged.at(-1)
    const { blend, clipped, joins } = (instead && merged[0]) || {}
    const layer: PictureLayer = {
      ...layerOf(picture, id, IDENTITY),
      ...(blend ? { blend } : {}),
      ...(clipped ? { clipped } : {}),
      ...(joins ? { joins } : {}),
    }
    put(
      project,
      { ...layer, ...(top?.parent ? { parent: top.parent } : {}) },
      top ? at(project, top.id) + 1 : project.layers.length,
    )
    const gone = new Set(instead ? ids.flatMap((each) => withDescendants(plain(project), each).map((l) => l.id)) : [])
    if (activate || gone.has(project.activeLayer ?? '')) project.activeLayer = id
    if (instead) project.layers = project.layers.filter((l) => !gone.has(l.id))
  }

/** What is painted next: with what, rubbed out or laid on, and where it is allowed (steps of the canvas; none: everywhere). */
export interface Painting {
  readonly fill: Fill
  readonly erase: boolean
  readonly within: Recipe
}
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)
/** Lays paint where the step finds (null: all of `within`), and nowhere outside `within`. A stroke that goes on as the ones before joins them in one item, so that they can be changed together. @param id for a new item */
export const paint =
  (layerId: string, id: string, { fill, erase, within }: Painting, step: FindingStep | null): Edit =>
  (project) => {
    const draft = found(project, layerId),
      layer = unwrap(draft) as unknown as Layer | undefined
    if (draft?.kind !== 'paint' || layer?.kind !== 'paint') return
    let toLayer: Affine
    try {
      toLayer = inverse(layer.placement)
    } catch {
      return
    }
    const last = layer.items.at(-1),
      lastStep = last?.area.recipe.steps.at(-1)
    if (
      step?.kind === 'paint' &&
      last &&
      lastStep?.kind === 'paint' &&
      same([last.fill, last.erase, last.toLayer], [fill, erase, toLayer]) &&
      same(last.area.recipe.steps.slice(0, -1), within.steps)
    ) {
      const strokes = (draft.items.at(-1)!.area.recipe.steps.at(-1) as Extract<FindingStep, { kind: 'paint' }>)
        .strokes as unknown as unknown[]
      strokes.push(...step.strokes)
      return
    }
    const own: Step = step
      ? within.steps.length
        ? { ...step, op: 'intersect' }
        : step
      : { kind: 'all', hidden: false }
    const steps: Step[] = step || !within.steps.length ? [...within.steps, own] : [...within.steps]
    const looks = steps.some((each) => each.kind === 'saved' || each.kind === 'layer' || looksAtPixels(each))
    const area = looks
      ? areaOf(project, { version: 1, steps }, layerId)
      : { recipe: { version: 1, steps }, frame: unwrap(project.canvas), scene: [], sceneLayer: layerId, saved: [] }
    draft.items.push({ id, fill, erase, strength: 1, toLayer: [...toLayer], area } as never)
  }
export const changePaint =
  (layerId: string, itemId: string, change: Partial<Omit<PaintItem, 'id'>>): Edit =>
  (project) => {
    const layer = found(project, layerId)
    const item = layer?.kind === 'paint' ? layer.items.find((i) => i.id === itemId) : undefined
    if (item) Object.assign(item, change)
  }
export const removePaint =
  (layerId: string, itemId: string): Edit =>
  (project) => {
    const layer = found(project, layerId)
    if (layer?.kind === 'paint') layer.items = layer.items.filter((item) => item.id !== itemId)
  }

/** The corners of a layer on the canvas; of a group, of all that lies in it. */
export function cornersOf(layers: readonly Layer[], id: string): [number, number][] {
  return withDescendants(layers, id)
    .filter((layer) => layer.kind !== 'group' && layer.kind !== 'adjust')
    .flatMap((layer) =>
      [
        [0, 0],
        [layer.width, 0],
        [layer.width, layer.height],
        [0, layer.height],
      ].map(([x, y]) => apply(layer.placement, x, y)),
    )
}
