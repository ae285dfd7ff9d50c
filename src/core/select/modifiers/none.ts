import { type Modifier } from '../finder'

/** Nothing: the steps below it begin anew. */
export const none: Modifier<'none', object> = {
  kind: 'none',
  finds: false,
  fields: {},
  modify: (matte) => {
    matte.data.fill(0)
    return matte
  },
}
