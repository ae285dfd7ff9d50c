import { invert as invertStep } from '../../steps/modifiers/invert'
import { invertInto } from '../../raster/coverage'
import { type Modifier } from '../finder'

/** Inside becomes outside: 255 − coverage. */
export const invert: Modifier<'invert', object> = {
  ...invertStep,
  modify: (matte) => {
    invertInto(matte)
    return matte
  },
}
