import { type FindingKind } from './step'
import { oneOf, text } from '../fields/fields'

export interface LayerFields {
  /** The id of a layer. */
  layer: string
  /** Where it covers, how bright it shows, or what its mask shows. */
  use: 'alpha' | 'luminance' | 'mask'
}

/** What another layer covers, its brightness, or its mask. */
export const layer: FindingKind<'layer', LayerFields> = {
  kind: 'layer',
  finds: true,
  looksAtPixels: false,
  fields: { layer: text(64), use: oneOf(['alpha', 'luminance', 'mask'] as const, 'alpha') },
}
