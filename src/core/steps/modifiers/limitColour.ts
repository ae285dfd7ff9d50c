import { type ModifyingKind } from '../step'
import { type PaletteFields, paletteFields } from '../palette'

/** Keeps only some colours of what is selected: the overlap with a palette. */
export const limitColour: ModifyingKind<'limitColour', PaletteFields> = {
  kind: 'limitColour',
  finds: false,
  looksAtPixels: true,
  fields: paletteFields,
}
