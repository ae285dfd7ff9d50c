/** Puts the lines of all processes together: printed tables, and the rows themselves for comparing. */
import { byFamily, type Row, summary } from './table'

export function report(rows: readonly Row[]): string {
  return `${summary(rows)}\n\n${byFamily(rows)}\n`
}
