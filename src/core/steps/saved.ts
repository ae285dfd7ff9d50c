import { type FindingKind } from './step'
import { LONGEST_NAME, text } from '../fields/fields'

export interface SavedFields {
  /** Name or id of a selection kept with the project. */
  selection: string
}

/** A selection saved under a name; it stays what its own steps make of the picture. */
export const saved: FindingKind<'saved', SavedFields> = {
  kind: 'saved',
  finds: true,
  looksAtPixels: false,
  fields: { selection: text(LONGEST_NAME) },
}
