import { type ModifyingKind } from '../step'
import { length } from '../../fields/fields'

/** A band of `width` px along the edge, half of it on either side. */
export const border: ModifyingKind<'border', { width: number }> = {
  kind: 'border',
  finds: false,
  fields: { width: length() },
}
