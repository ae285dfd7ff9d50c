import { combineInto } from '../../raster/coverage'
import { type Modifier } from '../finder'
import { type PaletteFields, paletteFields, paletteMatte } from '../palette'

/** Keeps only some colours of what is selected: the overlap with a palette. */
export const limitColour: Modifier<'limitColour', PaletteFields> = {
  kind: 'limitColour',
  finds: false,
  looksAtPixels: true,
  fields: paletteFields,
  modify(matte, params, context, scene) {
    combineInto(matte, paletteMatte(scene, params, 'all', context), 'intersect')
    return matte
  },
}
