import { type ModifyingKind } from '../step'

/** Nothing: the steps below it begin anew. */
export const none: ModifyingKind<'none', object> = {
  kind: 'none',
  finds: false,
  fields: {},
}
