import { type SavedSelection } from './records'
import { withId } from './withId'

/** Draft or not, as plain JSON. */
export const unwrap = <T>(value: T): T => (value === undefined ? value : (JSON.parse(JSON.stringify(value)) as T))
/** By id, or else by name. */
export const savedNamed = (all: readonly SavedSelection[], selection: string): SavedSelection | undefined =>
  withId(all, selection) ?? all.find((s) => s.name === selection)
