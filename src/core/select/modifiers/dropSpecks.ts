import { dropSpecks as dropSpecksStep } from '../../steps/modifiers/dropSpecks'
import { fillComponents } from '../../raster/components'
import { invertInto } from '../../raster/coverage'
import { type Modifier } from '../finder'

/** Drops separate pieces of up to `maxArea` px. */
export const dropSpecks: Modifier<'dropSpecks', { maxArea: number }> = {
  ...dropSpecksStep,
  modify(matte, { maxArea }) {
    invertInto(matte)
    fillComponents(matte, maxArea, true)
    invertInto(matte)
    return matte
  },
}
