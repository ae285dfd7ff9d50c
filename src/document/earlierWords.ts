/** Names that records had in earlier versions. Whoever reads records or changes from outside reads them by these. */
import { isObject } from '@/core/fields/record'
import { EARLIER_SHAPES } from '@/core/raster/ramp'

/** Fields of a mask. */
export const EARLIER_FIELDS: Readonly<Record<string, string>> = { density: 'strength' }

/** A live wire of before it could follow an object goes along edges alone, as it did. */
const isEarlierWire = (step: object): boolean =>
  'kind' in step && step.kind === 'liveWire' && 'anchors' in step && !('followObject' in step)

/** A stored recipe, its live wires as they were. */
export function wiresAsStored(recipe: unknown): unknown {
  const steps: unknown = isObject(recipe) && recipe.steps
  if (!Array.isArray(steps)) return recipe
  const earlier = steps.map((step) => isObject(step) && isEarlierWire(step))
  return earlier.includes(true)
    ? {
        ...(recipe as object),
        steps: steps.map((step: object, i) => (earlier[i] ? { ...step, followObject: false } : step)),
      }
    : recipe
}

const known = new WeakMap<object, unknown>()

/** A change as it is told now; the very same where it has no earlier names. */
export function inTodaysWords<T>(change: T): T {
  if (typeof change !== 'object' || change === null) return change
  if (!known.has(change)) known.set(change, Array.isArray(change) ? listOf(change) : fieldsOf(change))
  return known.get(change) as T
}
/** Names of fields stand in lists, too: those that are taken away, and places. */
const word = (value: unknown): unknown =>
  typeof value === 'string' ? (EARLIER_FIELDS[value] ?? value) : inTodaysWords(value)
function listOf(list: readonly unknown[]): readonly unknown[] {
  const told = list.map(word)
  return told.some((value, i) => value !== list[i]) ? told : list
}
function fieldsOf(object: object): object {
  const entries = Object.entries(object),
    told = entries.map(([name, value]): [string, unknown] => [
      EARLIER_FIELDS[name] ?? name,
      name === 'shape' && typeof value === 'string' ? (EARLIER_SHAPES[value] ?? value) : inTodaysWords(value),
    ])
  if (isEarlierWire(object)) told.push(['followObject', false])
  return told.some(([name, value], i) => name !== entries[i]?.[0] || value !== entries[i][1])
    ? Object.fromEntries(told)
    : object
}
