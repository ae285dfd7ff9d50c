/** What the place handles hold: a layer, all that lies in a group, or a mask apart from its layer. */
import { type Affine, compose, inverse, translation } from '@/core/raster/affine'
import { type Edit } from '@/document/history'
import { cornersOf, placeLayer } from '@/document/layers'
import { moveMask } from '@/document/masks'
import { layerById } from '@/document/edits'
import { type Project } from '@/document/records'
import { boxOf } from './snapping'

export interface Placeable {
  readonly id: string
  readonly name: string
  readonly width: number
  readonly height: number
  readonly placement: Affine
  readonly place: (placement: Affine) => Edit
  /** Why it cannot be moved. */
  readonly problem?: string
}

const from = (placement: Affine): Affine | null => {
  try {
    return inverse(placement)
  } catch {
    return null
  }
}

/** @param what the active layer, or its mask where that is not linked */
export function placeableOf(project: Project, what: 'layer' | 'mask'): Placeable | null {
  const layer = layerById(project, project.activeLayer)
  if (!layer) return null
  const problem = layer.locked ? `${layer.name} is locked.` : undefined
  const { mask, id } = layer
  if (what === 'mask' && mask?.unlinked) {
    const placement = compose(layer.placement, mask.toLayer),
      back = from(placement)
    return {
      id,
      name: `mask of ${layer.name}`,
      ...mask.frame,
      placement,
      problem,
      place: (next) => moveMask(id, back ? compose(next, back) : next),
    }
  }
  if (layer.kind === 'adjust') return null
  if (layer.kind !== 'group')
    return {
      id,
      name: layer.name,
      width: layer.width,
      height: layer.height,
      placement: layer.placement,
      problem,
      place: (next) => placeLayer(id, next),
    }
  const box = boxOf(cornersOf(project.layers, id))
  if (!box) return null
  return {
    id,
    name: layer.name,
    width: box.right - box.left,
    height: box.bottom - box.top,
    placement: translation(box.left, box.top),
    problem,
    place: (next) => placeLayer(id, compose(compose(next, translation(-box.left, -box.top)), layer.placement)),
  }
}
