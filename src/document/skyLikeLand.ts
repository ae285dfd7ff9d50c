/** A new sky that is exposed and balanced to be as the light on the land says: as far as the land does not follow the sky. */
import { type AdjustmentRecord } from '@/core/compose/adjustments/registry'
import { skyLikeLand } from '@/core/match/skyLikeLand'
import { found, type ProjectDraft } from './drafts'
import { type Edit } from './history'
import { changeLayer } from './layers'
import { measureAnew } from './measured'
import { withLights } from './newSkyLights'
import { addToSky, newSkyAt, type NewSkyLayers } from './newSkyParts'
import { type AdjustLayer } from './records'
import { unwrap } from './unwrap'

/** Exposure and white balance on the sky: what it needs as far as the land does not follow it. */
export const skyFollowsLand =
  (parts: NewSkyLayers, newId: () => string): Edit =>
  (project) => {
    const { sky, light } = parts,
      needs = neededBy(project, light)
    if (!sky || !needs) return
    const active = project.activeLayer
    withLights(project, sky.id, () => {
      const above = parts.exposure?.id ?? addToSky(project, sky.id, 'Exposure of the sky', needs.exposure, newId)
      if (!parts.whiteBalance) addToSky(project, above, 'White balance of the sky', needs.whiteBalance, newId)
    })
    project.activeLayer = active
  }
const neededBy = (project: ProjectDraft, light: AdjustLayer | undefined) => {
  const layer = light && found(project, light.id)
  return layer?.kind === 'adjust' && layer.adjustment.kind === 'relight'
    ? skyLikeLand(unwrap(layer.adjustment))
    : undefined
}
/** What the sky needs now that the light on the land is another. */
export function measureSky(
  project: ProjectDraft,
  { light, exposure, whiteBalance }: Pick<NewSkyLayers, 'light' | 'exposure' | 'whiteBalance'>,
): void {
  const needs = neededBy(project, light)
  if (exposure && needs) measureAnew(project, exposure.id, needs.exposure)
  if (whiteBalance && needs) measureAnew(project, whiteBalance.id, needs.whiteBalance)
}
/** Other values of an adjustment; where that is the light on the land, the sky follows, and where it is one of a new sky’s lights, haze and water do. */
export const changeAdjustment =
  (id: string, adjustment: AdjustmentRecord): Edit =>
  (project) => {
    const layer = found(project, id),
      change = changeLayer(id, { adjustment })
    if (layer?.kind !== 'adjust' || !layer.measured || !LIGHTS.includes(adjustment.kind)) change(project)
    else
      withLights(project, id, () => {
        change(project)
        const parts = newSkyAt(project.layers, id)
        if (parts?.light?.id === id) measureSky(project, parts)
      })
  }
const LIGHTS: readonly AdjustmentRecord['kind'][] = ['relight', 'exposure', 'whiteBalance']
