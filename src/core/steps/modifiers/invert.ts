import { type ModifyingKind } from '../step'

/** Inside becomes outside: 255 − coverage. */
export const invert: ModifyingKind<'invert', object> = {
  kind: 'invert',
  finds: false,
  fields: {},
}
