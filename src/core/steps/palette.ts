import { type FindingKind } from './step'
import { colours, type Fields, number } from '../fields/fields'

export interface PaletteFields {
  /** Picked colours, red, green and blue 0-255 each. None finds nothing. */
  colours: readonly (readonly [number, number, number])[]
  /** How far a colour may differ, CIELAB units (CIE76). */
  spread: number
  /** 0: all or nothing at the spread; 1: fading from the colour itself to twice the spread. */
  softness: number
}

export const paletteFields: Fields<PaletteFields> = {
  colours: colours(64),
  spread: number(0, 100, 24, 'CIELAB units'),
  softness: number(0, 1, 0.5),
}

/** Palette: soft coverage by how near a pixel's colour is to the nearest of several picked ones. */
export const palette: FindingKind<'palette', PaletteFields> = {
  kind: 'palette',
  finds: true,
  looksAtPixels: true,
  fields: paletteFields,
}
