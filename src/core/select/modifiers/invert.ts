import { invertInto } from '../../raster/coverage'
import { type Modifier } from '../finder'

/** Inside becomes outside: 255 − coverage. */
export const invert: Modifier<'invert', object> = {
  kind: 'invert',
  finds: false,
  fields: {},
  modify: (matte) => {
    invertInto(matte)
    return matte
  },
}
