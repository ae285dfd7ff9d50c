import { type ModifyingKind } from '../step'
import { length } from '../../fields/fields'

/** Softens the edge; `radius` in px. */
export const feather: ModifyingKind<'feather', { radius: number }> = {
  kind: 'feather',
  finds: false,
  fields: { radius: length() },
}
