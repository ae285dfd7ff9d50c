import { oneOf, text } from '../common/fields'
import { type Finder } from './finder'
import { coverageOf } from './image'

export interface LayerFields {
  /** The id of a layer. */
  layer: string
  /** Where it covers, how bright it shows, or what its mask shows. */
  use: 'alpha' | 'luminance' | 'mask'
}

/** A step names a layer that is not there. */
export class NoSuchLayer extends Error {}

/** What another layer covers, its brightness, or its mask. */
export const layer: Finder<'layer', LayerFields> = {
  kind: 'layer',
  finds: true,
  looksAtPixels: false,
  fields: { layer: text(64), use: oneOf(['alpha', 'luminance', 'mask'] as const, 'alpha') },
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
