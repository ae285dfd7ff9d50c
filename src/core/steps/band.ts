import { type FindingKind } from './step'
import { coordinate, extent, oneOf } from '../fields/fields'

export interface BandFields {
  /** "row": the full width of the canvas; "column": its full height. */
  axis: 'row' | 'column'
  /** Where it begins from the top or the left, and how thick it is, px; fractions are covered as fractions. */
  start: number
  size: number
}

/** A full row or column of the canvas, of any thickness. */
export const band: FindingKind<'band', BandFields> = {
  kind: 'band',
  finds: true,
  looksAtPixels: false,
  fields: { axis: oneOf(['row', 'column'] as const), start: coordinate(), size: extent() },
}
