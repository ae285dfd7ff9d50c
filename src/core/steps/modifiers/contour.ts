import { type ModifyingKind } from '../step'
import { length } from '../../fields/fields'

/** A band of `thickness` px along the edge, half of it on either side. */
export const contour: ModifyingKind<'contour', { thickness: number }> = {
  kind: 'contour',
  finds: false,
  fields: { thickness: length() },
  earlier: { width: (thickness) => ({ thickness }) },
}
