import { type ModifyingKind } from '../step'

/** Everything. */
export const all: ModifyingKind<'all', object> = {
  kind: 'all',
  finds: false,
  fields: {},
}
