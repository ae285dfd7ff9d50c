import { border as borderStep } from '../../steps/modifiers/border'
import { combineInto } from '../../raster/coverage'
import { grow } from '../../raster/grow'
import { type Modifier } from '../finder'

/** A band of `width` px along the edge, half of it on either side. */
export const border: Modifier<'border', { width: number }> = {
  ...borderStep,
  modify(matte, { width }) {
    const outer = grow(matte, width / 2)
    combineInto(outer, grow(matte, -width / 2), 'subtract')
    return outer
  },
}
