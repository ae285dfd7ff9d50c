import { type Modifier } from '../finder'

/** Everything. */
export const all: Modifier<'all', object> = {
  kind: 'all',
  finds: false,
  fields: {},
  modify: (matte) => {
    matte.data.fill(255)
    return matte
  },
}
