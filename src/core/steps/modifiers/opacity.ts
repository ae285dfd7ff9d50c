import { type ModifyingKind } from '../step'
import { number } from '../../fields/fields'

/** Coverage times `by` (0-1). */
export const opacity: ModifyingKind<'opacity', { by: number }> = {
  kind: 'opacity',
  finds: false,
  fields: { by: number(0, 1) },
}
