import { type ModifyingKind } from '../step'
import { signedLength } from '../../fields/fields'

/** Moves the edge by an exact Euclidean distance: out where `by` (px) is positive, in where it is negative. */
export const grow: ModifyingKind<'grow', { by: number }> = {
  kind: 'grow',
  finds: false,
  fields: { by: signedLength() },
}
