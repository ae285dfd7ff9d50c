/** docs/recipe.md names every kind of step with its fields, defaults and limits as they are. WRITE_DOCS=1 writes them there (`npm run docs`). */
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { FARTHEST, type Field } from '@/core/fields/fields'
import { FINDERS, MODIFIERS } from '@/core/steps/registry'
import { BATCH_OUTPUT } from '@/document/batchPlan'

const FILE = join(process.cwd(), 'docs/recipe.md')

/** Said once for all in the document: lengths are px, of any size. */
function limits(takes: string): string {
  const range = /^a number(?: of (.+))? from (\S+) to (\S+)$/.exec(takes)
  if (range) {
    const [, unit, from, to] = range
    if (Number(to) >= FARTHEST) return ''
    return `${from}${Number(from) < 0 ? ' to ' : '-'}${to}${unit ? ` ${unit}` : ''}`
  }
  const list = /^a list of (?:up to \d+ )?(strokes|points|colours)\b/.exec(takes)?.[1]
  if (list === 'strokes') return `[${takes.slice(takes.indexOf('{'))}, ...]`
  if (list === 'points') return '[[x, y], ...]'
  if (list === 'colours') return '[[red, green, blue], ...]'
  if (takes === 'true or false') return ''
  if (takes.startsWith('one of ')) return takes.slice(7).replaceAll(', ', ' | ')
  return takes.replace(/, two numbers in px$|^a (?=list|text)/g, '')
}
const bracketed = (takes: string): string => (limits(takes) ? ` (${limits(takes)})` : '')
const told = ([name, { takes, fallback, optional }]: [string, Field<unknown>]): string =>
  `${name}${optional ? '?' : ''}${fallback === undefined ? '' : `=${JSON.stringify(fallback)}`}${bracketed(takes)}`
const cellOf = (fields: object): string =>
  Object.entries(fields as Record<string, Field<unknown>>)
    .map(told)
    .join(', ')
/** First and second cell of every row there must be. */
const ROWS: readonly (readonly [string, string])[] = [
  ...Object.entries({ ...FINDERS, ...MODIFIERS }).map(([kind, { fields }]) => [kind, cellOf(fields)] as const),
  ...Object.entries<Field<unknown>>(BATCH_OUTPUT).map(
    ([name, { takes, fallback }]) =>
      [name, `${fallback === undefined ? 'none' : JSON.stringify(fallback)}${bracketed(takes)}`] as const,
  ),
]

/** Cells of a row of a table; pipes in them are escaped. */
const cells = (line: string): string[] =>
  line
    .split(/(?<!\\)\|/)
    .slice(1, -1)
    .map((cell) => cell.trim())

it('docs/recipe.md tells the fields of every kind of step, and of what goes out, as they are', () => {
  const lines = readFileSync(FILE, 'utf8').split('\n'),
    wrong: string[] = []
  for (const [first, plain] of ROWS) {
    const at = lines.findIndex((line) => line.startsWith('|') && cells(line)[0] === first),
      [, found, does] = at < 0 ? [] : cells(lines[at]),
      wanted = plain.replaceAll('|', '\\|')
    if (at < 0 || !does) wrong.push(`${first} has no row that says what it does`)
    else if (found !== wanted) {
      if (process.env.WRITE_DOCS) lines[at] = `| ${first} | ${wanted} | ${does} |`
      else wrong.push(`${first}: ${wanted}`)
    }
  }
  if (process.env.WRITE_DOCS) writeFileSync(FILE, lines.join('\n'))
  expect(wrong).toEqual([])
})
