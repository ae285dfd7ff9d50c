import { type ModifyingKind } from '../step'
import { area } from '../../fields/fields'

/** Drops separate pieces of up to `maxArea` px. */
export const dropSpecks: ModifyingKind<'dropSpecks', { maxArea: number }> = {
  kind: 'dropSpecks',
  finds: false,
  fields: { maxArea: area() },
}
