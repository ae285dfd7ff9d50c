import { type FindingKind } from './step'
import { type Axis, coordinate, extent, type Field, oneOf, scaledPlace } from '../fields/fields'

export interface BandFields {
  /** "row": the full width of the canvas; "column": its full height. */
  axis: 'row' | 'column'
  /** Where it begins from the top or the left, and how thick it is, px; fractions are covered as fractions. */
  start: number
  size: number
}

/** A row lies along y, a column along x. */
const along = (axis: unknown): Axis => (axis === 'row' ? 'y' : 'x')
const start: Field<number> = {
  ...coordinate('y'),
  scaled: (value, by, { axis }) => scaledPlace(value, along(axis), by),
}
const size: Field<number> = { ...extent('y'), scaled: (value, by, { axis }) => value * by[along(axis)] }

/** A full row or column of the canvas, of any thickness. */
export const band: FindingKind<'band', BandFields> = {
  kind: 'band',
  finds: true,
  looksAtPixels: false,
  fields: { axis: oneOf(['row', 'column'] as const), start, size },
}
