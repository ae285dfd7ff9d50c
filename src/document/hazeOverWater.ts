import { canonicalJson } from '@/core/fields/canonical'
import { found } from './drafts'
import { type Edit } from './history'
import { type Area } from './records'

const where = ({ recipe }: Area) => canonicalJson(recipe.steps.map((step) => ({ ...step, id: '' })))

/** Before a layer goes: where it is the sky in the water, haze lies there again, as far as nobody has changed where it does. */
export const hazeOverWater =
  (id: string): Edit =>
  (project) => {
    const water = found(project, id)
    if (water?.kind !== 'adjust' || water.adjustment.kind !== 'reflection' || !water.mask) return
    for (const layer of project.layers)
      if (layer.parent === water.parent && layer.kind === 'adjust' && layer.adjustment.kind === 'haze')
        if (layer.mask?.invert && where(layer.mask) === where(water.mask)) layer.mask = null
  }
