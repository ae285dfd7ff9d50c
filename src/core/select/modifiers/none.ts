import { none as noneStep } from '../../steps/modifiers/none'
import { type Modifier } from '../finder'

/** Nothing: the steps below it begin anew. */
export const none: Modifier<'none', object> = {
  ...noneStep,
  modify: (matte) => {
    matte.data.fill(0)
    return matte
  },
}
