/** docs/recipe.md names every kind of step with its fields, defaults and limits as they are. WRITE_DOCS=1 writes them there (`npm run docs`). */
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { FARTHEST, type Field } from '@/core/fields/fields'
import { FINDERS, MODIFIERS } from '@/core/steps/registry'

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
const told = ([name, { takes, fallback, optional }]: [string, Field<unknown>]): string => {
  const said = limits(takes),
    usual = fallback === undefined ? '' : `=${JSON.stringify(fallback)}`
  return `${name}${optional ? '?' : ''}${usual}${said ? ` (${said})` : ''}`
}
const cellOf = (fields: object): string =>
  Object.entries(fields as Record<string, Field<unknown>>)
    .map(told)
    .join(', ')
    .replaceAll('|', '\\|')

/** Cells of a row of a table; pipes in them are escaped. */
const cells = (line: string): string[] =>
  line
    .split(/(?<!\\)\|/)
    .slice(1, -1)
    .map((cell) => cell.trim())

it('docs/recipe.md tells the fields of every kind of step as they are', () => {
  const lines = readFileSync(FILE, 'utf8').split('\n'),
    kinds = { ...FINDERS, ...MODIFIERS },
    wrong: string[] = []
  for (const [kind, { fields }] of Object.entries(kinds)) {
    const at = lines.findIndex((line) => line.startsWith('|') && cells(line)[0] === kind),
      [, found, does] = at < 0 ? [] : cells(lines[at]),
      wanted = cellOf(fields)
    if (at < 0 || !does) wrong.push(`${kind} has no row that says what it does`)
    else if (found !== wanted) {
      if (process.env.WRITE_DOCS) lines[at] = `| ${kind} | ${wanted} | ${does} |`
      else wrong.push(`${kind}: ${wanted}`)
    }
  }
  if (process.env.WRITE_DOCS) writeFileSync(FILE, lines.join('\n'))
  expect(wrong).toEqual([])
})
