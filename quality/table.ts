/** Tables of what was measured, as Markdown. */
import { type Answer, TASKS } from './tasks'

export interface Row {
  readonly scene: string
  readonly family: string
  readonly task: string
  readonly answer: Answer
}

const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / Math.max(1, values.length)

/** The mean of the worst tenth, rounded up to whole scenes. */
export function worstTenth(values: readonly number[], rising: boolean): number {
  const sorted = [...values].sort((a, b) => (rising ? a - b : b - a))
  return mean(sorted.slice(0, Math.ceil(sorted.length / 10)))
}

const shown = (value: number, task: string) =>
  Number.isFinite(value) ? value.toFixed(task.startsWith('trimap') ? 4 : /[cC]licks/.test(task) ? 1 : 3) : '–'

export function summary(rows: readonly Row[]): string {
  const lines = ['| | scenes | mean | median | worst tenth | under 0.5 |', '|---|---|---|---|---|---|']
  for (const [task, { title, rising }] of Object.entries(TASKS)) {
    const of = rows.filter((row) => row.task === task),
      values = of.map((row) => row.answer.value).sort((a, b) => a - b)
    if (!values.length) continue
    const middle = (values[(values.length - 1) >> 1] + values[values.length >> 1]) / 2
    const few = rising ? String(values.filter((v) => v < 0.5).length) : ''
    const finite = values.filter(Number.isFinite)
    lines.push(
      `| ${title} | ${values.length} | ${shown(mean(finite), task)} | ${shown(middle, task)} | ${shown(worstTenth(values, rising), task)} | ${few} |`,
    )
    for (const also of new Set(of.flatMap((row) => Object.keys(row.answer.also ?? {})))) {
      const more = of.flatMap((row) => row.answer.also?.[also] ?? [])
      lines.push(
        `| ${also} | ${more.length} | ${shown(mean(more), also)} | | ${shown(worstTenth(more, false), also)} | |`,
      )
    }
  }
  return lines.join('\n')
}

export function byFamily(rows: readonly Row[]): string {
  const tasks = Object.keys(TASKS).filter((task) => rows.some((row) => row.task === task)),
    families = [...new Set(rows.map((row) => row.family))].sort()
  return [
    `| | ${tasks.map((task) => TASKS[task].title).join(' | ')} |`,
    `|---|${tasks.map(() => '---|').join('')}`,
    ...families.map((family) => {
      const cells = tasks.map((task) => {
        const values = rows.filter((row) => row.task === task && row.family === family).map((row) => row.answer.value)
        return values.length ? shown(mean(values.filter(Number.isFinite)), task) : ''
      })
      return `| ${family} | ${cells.join(' | ')} |`
    }),
  ].join('\n')
}
