/** Another sky: an ordinary group of ordinary layers in the place of a photo. */
import { type NewSky } from '@/core/match/newSky'
import { inOtherLights, plannedLights } from '@/core/match/otherLights'
import { parseStep } from '@/core/formats/recipe'
import { type Size } from '@/core/raster/picture'
import { type Step } from '@/core/steps/registry'
import { found, type ProjectDraft } from './drafts'
import { picksBackground } from './edits'
import { type Edit } from './history'
import { addLayer, addLayerWithin, duplicate, groupLayers } from './layers'
import { layerOf, measuredLayer } from './layerRecords'
import { changeMask, copyMask, keepScene, maskWith } from './masks'
import { restrict } from './pieces'
import { byItself, childrenOf } from './tree'
import { type AdjustLayer, type Area, type Layer, type Picture } from './records'
import { measureAnew } from './measured'
import { addToSky, clipTo, type NewSkyLayers } from './newSkyParts'
import { lightsOf } from './newSkyLights'
import { measureSky } from './skyLikeLand'
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

/** The steps that find the water of a photo that mirrors its sky. */
export const waterSteps = (newId: () => string): Step[] => [{ ...parseStep({ kind: 'water' }), id: newId() }]
/** The same for a new sky that nobody has asked to be mirrored: only what is water for sure. */
export const sureWaterSteps = ({ is }: { readonly is: string }, newId: () => string): Step[] =>
  is === 'sure' ? waterSteps(newId) : []

/**
 * The photo stays as it is; above it comes a group that covers it: the new sky, before it the land (the photo without its sky, and without its
 * colours along the edge), and on the land the new sky's light.
 * @param steps that select the old sky
 * @param water steps that select what mirrors it; none where there is none
 */
export const replaceSky =
  (
    photo: string,
    sky: Picture,
    steps: readonly Step[],
    { placement, relight, grain, blur, haze, reflection }: NewSky,
    newId: () => string,
    water: readonly Step[] = [],
  ): Edit =>
  (project) => {
    const layer = unwrap(found(project, photo)) as Layer | undefined
    if (!layer) return
    const alone = photoAlone(unwrap(project.layers), photo)
    const group = newId(),
      skyId = newId(),
      light = newId()
    const copy = duplicate(project, photo, newId, 'Land')
    if (!copy) return
    const land = restrictTo(project, copy, photo, steps, newId)
    addLayer(layerOf(sky, skyId, placement), photo)(project)
    clipTo(project, land, measuredLayer(light, 'Light on the land', unwrap(project.canvas), relight))
    const air = newId()
    clipTo(project, light, measuredLayer(air, 'Haze', unwrap(project.canvas), haze))
    const members = [skyId, land, light, air]
    let above = skyId
    for (const [name, adjustment] of [
      ['Blur of the photo', blur],
      ['Grain of the photo', grain],
    ] as const)
      if (adjustment) members.push((above = addToSky(project, above, name, adjustment, newId)))
    if (water.length) {
      const id = newId()
      addLayer(inWater(id, project, reflection), air)(project)
      maskWith(project, id, { version: 1, steps: [...water] }, photoScene(project, alone, photo))
      leaveOut(project, air, id)
      members.push(id)
    }
    groupLayers(members, group, 'New sky')(project)
  }
/** Steps that look at the photo alone, as they did when it was measured. */
const photoScene = (project: ProjectDraft, alone: readonly Layer[], photo: string) => ({
  scene: keepScene(project, alone),
  sceneLayer: photo,
})
/** Water mirrors the air with the sky: haze leaves it out, unless it has a mask already. */
function leaveOut(project: ProjectDraft, haze: string, water: string): void {
  if (found(project, haze)?.mask) return
  copyMask(water, haze)(project)
  changeMask(haze, { invert: true })(project)
}
const inWater = (id: string, project: ProjectDraft, reflection: NewSky['reflection']): AdjustLayer =>
  measuredLayer(id, 'Sky in the water', unwrap(project.canvas), reflection)

/** The photo by itself: what the steps that find its sky look at, whatever lies over it. */
export const photoAlone = (layers: readonly Layer[], photo: string): readonly Layer[] =>
  JSON.parse(JSON.stringify(byItself(layers, photo, false))) as Layer[]

/** The steps that select the old sky: what the mask of the land leaves out, as the editor has made it; else the usual ones. */
export function oldSky({ photo, land }: NewSkyLayers, newId: () => string): { steps: readonly Step[]; area?: Area } {
  if (!land?.mask) return { steps: skySteps(photo, newId) }
  const { steps } = land.mask.recipe
  return {
    area: land.mask,
    steps: picksBackground(land.mask.recipe)
      ? steps.slice(0, -1)
      : [...steps, { kind: 'invert', hidden: false, id: newId() }],
  }
}

/** Another sky in the place of the one there is. What the editor set stays; what is as it was measured is as it is measured now. */
export const exchangeSky =
  (
    parts: Omit<NewSkyLayers, 'photo'> & Required<Pick<NewSkyLayers, 'sky' | 'light'>>,
    picture: Picture,
    plan: NewSky,
    newId: () => string,
  ): Edit =>
  (project) => {
    const { sky, light, apart, haze, water, blur, grain } = parts,
      draft = found(project, sky.id)
    if (draft?.kind !== 'picture') return
    Object.assign(draft, {
      asset: picture.asset,
      name: picture.name,
      width: picture.width,
      height: picture.height,
      placement: [...plan.placement],
    })
    measureAnew(project, light.id, plan.relight)
    measureSky(project, parts)
    if (apart) measureAnew(project, apart.id, plan.relight)
    const lights = lightsOf(project, parts) ?? plannedLights(plan.relight)
    for (const [layer, values] of [
      [haze, plan.haze],
      [water, plan.reflection],
    ] as const)
      if (layer) measureAnew(project, layer.id, inOtherLights(values, plannedLights(plan.relight), lights))
    // A sky that lacks nothing of it has as much as it takes to lack none.
    const lowest = parts.whiteBalance?.id ?? parts.exposure?.id ?? sky.id
    let above = blur?.id ?? lowest
    if (blur) measureAnew(project, blur.id, plan.blur ?? { ...blur.adjustment, radius: 0 })
    else if (plan.blur) above = addToSky(project, lowest, 'Blur of the photo', plan.blur, newId)
    if (grain) measureAnew(project, grain.id, plan.grain ?? { ...grain.adjustment, amount: 0 })
    else if (plan.grain) addToSky(project, above, 'Grain of the photo', plan.grain, newId)
  }

/** What is selected takes its light apart from the land: the same light once more, on that alone, and the land's leaves it out. */
export const subjectApart =
  (light: AdjustLayer, newId: () => string): Edit =>
  (project) => {
    if (!project.selection.steps.length) return
    const active = project.activeLayer,
      id = newId(),
      own = measuredLayer(id, 'Light on the subject', unwrap(project.canvas), light.adjustment)
    addLayerWithin({ ...own, measured: light.measured, clipped: true }, light.id)(project)
    copyMask(id, light.id)(project)
    changeMask(light.id, { invert: true })(project)
    project.activeLayer = active
  }

/** Over all that is clipped to the land: water lies in it. */
const overTheLand = (project: ProjectDraft, light: string): string => {
  const siblings = childrenOf(unwrap(project.layers), found(project, light)?.parent)
  let at = siblings.findIndex((each) => each.id === light)
  while (siblings[at + 1]?.clipped) at++
  return siblings[at].id
}
/** What steps select in the photo mirrors the new sky; without any, what is selected. @param reflection as it is for the light that was measured */
export const skyInWater =
  (parts: NewSkyLayers, reflection: NewSky['reflection'], newId: () => string, steps: readonly Step[] = []): Edit =>
  (project) => {
    const { photo, light, haze } = parts,
      lights = lightsOf(project, parts)
    if (!light || light.measured?.kind !== 'relight' || !lights) return
    if (!steps.length && !project.selection.steps.length) return
    const active = project.activeLayer,
      id = newId(),
      layer = inWater(id, project, inOtherLights(reflection, plannedLights(light.measured), lights)),
      below = overTheLand(project, light.id)
    if (steps.length) {
      addLayer(layer, below)(project)
      const alone = photoAlone(unwrap(project.layers), photo.id)
      maskWith(project, id, { version: 1, steps: [...steps] }, photoScene(project, alone, photo.id))
    } else addLayerWithin(layer, below)(project)
    if (haze) leaveOut(project, haze.id, id)
    project.activeLayer = active
  }
/** The horizon that haze and water go by. */
export const moveHorizon =
  ({ haze, water }: NewSkyLayers, y: number): Edit =>
  (project) => {
    for (const layer of [haze, water]) {
      const draft = layer && found(project, layer.id)
      if (draft?.kind === 'adjust' && 'horizon' in draft.adjustment) draft.adjustment.horizon = y
    }
  }

function restrictTo(
  project: ProjectDraft,
  copy: string,
  photo: string,
  steps: readonly Step[],
  newId: () => string,
): string {
  const alone = photoAlone(unwrap(project.layers), photo),
    land = restrict(project, copy, { version: 1, steps: [...steps] }, false, newId, { fringe: 1 })
  const mask = found(project, land)?.mask
  if (mask) Object.assign(mask, photoScene(project, alone, photo))
  return land
}
