/** Changes of the layers: which there are, in which order and groups, where they lie, how they are laid in. */
import { type AdjustmentRecord } from '@/core/compose/adjustments/registry'
import { type Fill } from '@/core/compose/fill'
import { type Affine, apply, compose, IDENTITY, inverse, translation } from '@/core/raster/affine'
import { type Edit } from './history'
import { areaOf } from './masks'
import { LIMITS } from './limits'
import { ancestorsOf } from './shown'
import { childrenOf, depthWithin, withDescendants } from './tree'
import { type Layer, type PaintItem, type Picture, type PictureLayer } from './records'
import { unwrap } from './unwrap'
import { at, found, plain, type ProjectDraft } from './drafts'
import { selected } from './drafts'
import { groupOf, layerOf } from './layerRecords'
import { withId } from './withId'

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
      layer = withId(layers, id)
    if (!layer) return
    const group = parent === undefined ? layer.parent : (parent ?? undefined)
    if (group && withDescendants(layers, id).some((l) => l.id === group)) return
    if (group && ancestorsOf(layers, group).length + 1 + depthWithin(layers, id) > LIMITS.groups) return
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
      layer = withId(layers, id)
    if (!layer) return
    const siblings = childrenOf(layers, layer.parent),
      place = siblings.findIndex((l) => l.id === id),
      beside = siblings[place + by]
    if (beside?.kind === 'group') moveLayer(id, by > 0 ? 0 : childrenOf(layers, beside.id).length, beside.id)(project)
    else if (beside) moveLayer(id, place + by)(project)
    else if (layer.parent) {
      const group = withId(layers, layer.parent)!,
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
export function duplicate(project: ProjectDraft, id: string, newId: () => string, name?: string): string | null {
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
