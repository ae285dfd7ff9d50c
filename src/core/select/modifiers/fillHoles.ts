import { fillComponents } from '../../raster/components'
import { area } from '../../common/fields'
import { type Modifier } from '../finder'

/** Fills what is enclosed: holes of up to `maxArea` px (all, when it is left out) that do not touch the canvas's border. */
export const fillHoles: Modifier<'fillHoles', { maxArea: number }> = {
  kind: 'fillHoles',
  finds: false,
  fields: { maxArea: area(1e12) },
  modify: (matte, { maxArea }) => {
    fillComponents(matte, maxArea, false)
    return matte
  },
}
