/** Puts the lines of all processes together: printed tables, and the rows themselves for comparing. */
import { byFamily, type Row, summary } from './table'
import { TASKS } from './tasks'

export function report(rows: readonly Row[]): string {
  return `${summary(rows)}\n\n${byFamily(rows)}\n`
}

/** Mean and worst of each task, to four places. */
export function figures(rows: readonly Row[]): Record<string, { mean: number; worst: number }> {
  const round = (value: number) => Math.round(value * 1e4) / 1e4
  return Object.fromEntries(
    Object.entries(TASKS).flatMap(([task, { rising }]) => {
      const values = rows.filter((row) => row.task === task).map((row) => row.answer.value)
      if (!values.length) return []
      const mean = values.reduce((sum, value) => sum + value, 0) / values.length
      return [[task, { mean: round(mean), worst: round(rising ? Math.min(...values) : Math.max(...values)) }]]
    }),
  )
}
