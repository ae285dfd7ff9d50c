/** Another sky: an ordinary group of ordinary layers in the place of a photo. */
import { type NewSky } from '@/core/match/newSky'
import { parseStep } from '@/core/formats/recipe'
import { type Size } from '@/core/raster/picture'
import { type Step } from '@/core/steps/registry'
import { found, type ProjectDraft } from './drafts'
import { type Edit } from './history'
import { addLayer, duplicate, groupLayers } from './layers'
import { adjustLayer, layerOf } from './layerRecords'
import { restrict } from './pieces'
import { type Layer, type Picture } from './types'
import { unwrap } from './unwrap'

/** The sky's edge is solved this far on either side: a share of the photo's diagonal, within these px. */
const REACH = 0.003,
  LEAST_REACH = 3,
  MOST_REACH = 12

/** The steps that find the sky of a photo, solved along its edge. Fine things in the sky are the finder's: what is fine on the land is no sky. */
export const skySteps = ({ width, height }: Size, newId: () => string): Step[] => {
  const reach = Math.round(Math.min(MOST_REACH, Math.max(LEAST_REACH, REACH * Math.hypot(width, height))))
  return [{ kind: 'sky' }, { kind: 'edge', reach, follow: false }].map((step) => ({ ...parseStep(step), id: newId() }))
}

/**
 * The photo stays as it is; above it comes a group that covers it: the new sky, before it the land (the photo without its sky, and without its
 * colours along the edge), and on the land the new sky's light.
 * @param steps that select the old sky
 */
export const replaceSky =
  (photo: string, sky: Picture, steps: readonly Step[], { placement, relight }: NewSky, newId: () => string): Edit =>
  (project) => {
    const layer = unwrap(found(project, photo)) as Layer | undefined
    if (!layer) return
    const group = newId(),
      skyId = newId(),
      light = newId()
    const copy = duplicate(project, photo, newId, 'Land')
    if (!copy) return
    // The steps look at the photo itself.
    project.activeLayer = photo
    const land = restrictTo(project, copy, photo, steps, newId)
    addLayer(layerOf(sky, skyId, placement), photo)(project)
    addLayer(adjustLayer(light, 'Light on the land', unwrap(project.canvas), relight), land)(project)
    found(project, light)!.clipped = true
    groupLayers([skyId, land, light], group, 'New sky')(project)
  }

function restrictTo(
  project: ProjectDraft,
  copy: string,
  photo: string,
  steps: readonly Step[],
  newId: () => string,
): string {
  const land = restrict(project, copy, { version: 1, steps: [...steps] }, false, newId, { fringe: 1 })
  const mask = found(project, land)?.mask
  if (mask) mask.sceneLayer = photo
  return land
}
