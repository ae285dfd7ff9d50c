/** The layers of a new sky, found among all; and what is clipped to one of them. */
import { type AdjustmentRecord } from '@/core/compose/adjustments/registry'
import { type ProjectDraft } from './drafts'
import { addLayer } from './layers'
import { measuredLayer } from './layerRecords'
import { ancestorsOf } from './shown'
import { belowOf, childrenOf } from './tree'
import { type AdjustLayer, type GroupLayer, type Layer, type PictureLayer } from './records'
import { unwrap } from './unwrap'
import { withId } from './withId'

/** A photo, and the new sky it may have. */
export interface NewSkyLayers {
  readonly photo: PictureLayer
  readonly group?: GroupLayer
  readonly sky?: PictureLayer
  readonly light?: AdjustLayer
  /** On a subject that takes its light apart from the land. */
  readonly apart?: AdjustLayer
  /** In the air before the land. */
  readonly haze?: AdjustLayer
  /** The sky in the water. */
  readonly water?: AdjustLayer
  /** On the sky. */
  readonly exposure?: AdjustLayer
  readonly whiteBalance?: AdjustLayer
  readonly blur?: AdjustLayer
  readonly grain?: AdjustLayer
  /** Before the sky; its mask leaves the old sky out. */
  readonly land?: Layer
}
/** The photo that a layer is, or that lies below the new sky it is part of; undefined where there is none. */
export function newSkyAt(layers: readonly Layer[], id: string | null): NewSkyLayers | undefined {
  const layer = withId(layers, id)
  if (!layer) return undefined
  const own = [layer, ...ancestorsOf(layers, layer.id)].map((each) => partsOf(layers, each)).find(Boolean)
  if (own) {
    const photo = belowOf(layers, own.group.id)
    return photo?.kind === 'picture' ? { photo, ...own } : undefined
  }
  if (layer.kind !== 'picture') return undefined
  const siblings = childrenOf(layers, layer.parent),
    above = siblings[siblings.indexOf(layer) + 1] as Layer | undefined
  return { photo: layer, ...(above && partsOf(layers, above)) }
}
function partsOf(layers: readonly Layer[], group: Layer) {
  if (group.kind !== 'group') return undefined
  const children = childrenOf(layers, group.id),
    adjusts = (kind: AdjustmentRecord['kind']) =>
      children.filter(
        (each): each is AdjustLayer =>
          each.kind === 'adjust' && each.adjustment.kind === kind && each.measured !== undefined,
      ),
    [light, apart] = adjusts('relight') as (AdjustLayer | undefined)[],
    [exposure] = adjusts('exposure') as (AdjustLayer | undefined)[],
    [whiteBalance] = adjusts('whiteBalance') as (AdjustLayer | undefined)[],
    [blur] = adjusts('gaussianBlur') as (AdjustLayer | undefined)[],
    [grain] = adjusts('grain') as (AdjustLayer | undefined)[],
    [haze] = adjusts('haze') as (AdjustLayer | undefined)[],
    [water] = adjusts('reflection') as (AdjustLayer | undefined)[],
    [sky] = children,
    land = children.find((each) => each !== sky && each.kind !== 'adjust' && each.mask)
  return light && sky.kind === 'picture'
    ? {
        group,
        sky,
        light,
        ...(apart ? { apart } : {}),
        ...(haze ? { haze } : {}),
        ...(water ? { water } : {}),
        ...(exposure ? { exposure } : {}),
        ...(whiteBalance ? { whiteBalance } : {}),
        ...(blur ? { blur } : {}),
        ...(grain ? { grain } : {}),
        ...(land ? { land } : {}),
      }
    : undefined
}

export function clipTo(project: ProjectDraft, base: string, layer: AdjustLayer): void {
  addLayer({ ...layer, clipped: true }, base)(project)
}
/** @param above the sky, or what is clipped to it already */
export function addToSky(
  project: ProjectDraft,
  above: string,
  name: string,
  adjustment: AdjustmentRecord,
  newId: () => string,
): string {
  const id = newId()
  clipTo(project, above, measuredLayer(id, name, unwrap(project.canvas), adjustment))
  return id
}
