import { layer as layerStep, type LayerFields } from '../steps/layer'
import { type Finder } from './finder'
import { coverageOf } from './image'

/** A step names a layer that is not there. */
export class NoSuchLayer extends Error {}

/** What another layer covers, its brightness, or its mask. */
export const layer: Finder<'layer', LayerFields> = {
  ...layerStep,
  dependsOn: (scene, { layer: id }) => scene.layer?.(id)?.identity ?? 'none',
  find(scene, { layer: id, use }) {
    const found = scene.layer?.(id)
    if (!found)
      throw new NoSuchLayer(
        scene.layer
          ? 'The layer this step looks at is not there any more.'
          : 'A layer is looked at; layers are kept with a project and are not known here.',
      )
    return use === 'mask' ? found.mask() : coverageOf(found.picture(), use)
  },
}
