import { all as allStep } from '../../steps/modifiers/all'
import { type Modifier } from '../finder'

/** Everything. */
export const all: Modifier<'all', object> = {
  ...allStep,
  modify: (matte) => {
    matte.data.fill(255)
    return matte
  },
}
