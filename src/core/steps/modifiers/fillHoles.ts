import { type ModifyingKind } from '../step'
import { area } from '../../fields/fields'

/** Fills what is enclosed: holes of up to `maxArea` px (all, when it is left out) that do not touch the canvas's border. */
export const fillHoles: ModifyingKind<'fillHoles', { maxArea: number }> = {
  kind: 'fillHoles',
  finds: false,
  fields: { maxArea: area(1e12) },
}
