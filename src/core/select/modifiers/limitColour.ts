import { limitColour as limitColourStep } from '../../steps/modifiers/limitColour'
import { combineInto } from '../../raster/coverage'
import { type Modifier } from '../finder'
import { type PaletteFields } from '../../steps/palette'
import { paletteMatte } from '../palette'

/** Keeps only some colours of what is selected: the overlap with a palette. */
export const limitColour: Modifier<'limitColour', PaletteFields> = {
  ...limitColourStep,
  modify(matte, params, context, scene) {
    combineInto(matte, paletteMatte(scene, params, 'all', context), 'intersect')
    return matte
  },
}
