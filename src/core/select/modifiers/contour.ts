import { contour as contourStep } from '../../steps/modifiers/contour'
import { combineInto } from '../../raster/coverage'
import { grow } from '../../raster/grow'
import { type Modifier } from '../finder'

/** A band of `thickness` px along the edge, half of it on either side. */
export const contour: Modifier<'contour', { thickness: number }> = {
  ...contourStep,
  modify(matte, { thickness }) {
    const outer = grow(matte, thickness / 2)
    combineInto(outer, grow(matte, -thickness / 2), 'subtract')
    return outer
  },
}
