import { fillHoles as fillHolesStep } from '../../steps/modifiers/fillHoles'
import { fillComponents } from '../../raster/components'
import { type Modifier } from '../finder'

/** Fills what is enclosed: holes of up to `maxArea` px (all, when it is left out) that do not touch the canvas's border. */
export const fillHoles: Modifier<'fillHoles', { maxArea: number }> = {
  ...fillHolesStep,
  modify: (matte, { maxArea }) => {
    fillComponents(matte, maxArea, false)
    return matte
  },
}
