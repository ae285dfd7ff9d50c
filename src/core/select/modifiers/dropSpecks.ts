import { fillComponents } from '../../raster/components'
import { invertInto } from '../../raster/coverage'
import { area } from '../../common/fields'
import { type Modifier } from '../finder'

/** Drops separate pieces of up to `maxArea` px. */
export const dropSpecks: Modifier<'dropSpecks', { maxArea: number }> = {
  kind: 'dropSpecks',
  finds: false,
  fields: { maxArea: area() },
  modify(matte, { maxArea }) {
    invertInto(matte)
    fillComponents(matte, maxArea, true)
    invertInto(matte)
    return matte
  },
}
