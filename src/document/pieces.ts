/** Pieces of layers by the selection: lifted, cut out, erased, isolated. */
import { type Recipe, type Step } from '@/core/steps/registry'
import { type Edit } from './history'
import { maskWith } from './masks'
import { ancestorsOf } from './shown'
import { withDescendants } from './tree'
import { type LayerMask } from './records'
import { found, plain, type ProjectDraft } from './drafts'
import { duplicate, groupLayers } from './layers'
import { selected } from './drafts'

/** The layer shows only where the steps select (or where they do not): as its mask, or where it has one, as the mask of a group around it. Returns the id of the outer. */
export function restrict(
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
