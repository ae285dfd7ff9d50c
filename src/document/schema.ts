/** What records are described with: valibot's schemas, whose messages are what follows the path of a field in the sentence that refuses it. */
import * as v from 'valibot'
import { type Affine } from '@/core/raster/affine'
import { isText } from '@/core/fields/fields'
import { RecordError } from '@/core/fields/record'
import { checkOnce } from '@/core/formats/recipe'
import { LIMITS } from './limits'

/** Reads a `T` from anything. */
export type Schema<T> = v.GenericSchema<unknown, T>
/** The record that fields make. */
export type RecordOf<F extends v.ObjectEntries> = Readonly<v.InferOutput<v.ObjectSchema<F, undefined>>>

/** One sentence: which field it is, and what it takes. */
export class ProjectError extends Error {}

const takes = (what: string): string => `: takes ${what}.`

/** Reads a value, or throws a ProjectError whose sentence begins with where it stands: `name`, then the way from there. */
export function read<T>(schema: Schema<T>, value: unknown, name: string): T {
  const found = v.safeParse(schema, value, { abortEarly: true })
  if (found.success) return found.output
  const [{ path = [], message }] = found.issues as [v.BaseIssue<unknown>]
  const way = path.map(({ key }) => (typeof key === 'number' ? `[${key}]` : `.${String(key)}`)).join('')
  throw new ProjectError(`${name}${way}`.replace(/^\./, '') + message)
}

/** Any value of which `accepts` is true. */
export const valueOf = <T>(what: string, accepts: (value: unknown) => boolean): Schema<T> =>
  v.custom<T>(accepts, takes(what))
export function numberOf(min: number, max: number, unit?: string): Schema<number> {
  const message = takes(`a number ${unit ? `of ${unit} ` : ''}from ${min} to ${max}`)
  return v.pipe(v.number(message), v.minValue(min, message), v.maxValue(max, message))
}
export const textOf = (longest: number): Schema<string> =>
  valueOf(`a text of up to ${longest} characters, without NUL or half surrogate pairs`, (value) =>
    isText(value, longest),
  )
export const oneOf = <const T extends string>(values: readonly T[]): Schema<T> =>
  v.picklist(values, takes(`one of ${values.join(', ')}`))
/** 0-1. */
export const share = numberOf(0, 1)
export const flag: Schema<boolean> = v.boolean(takes('true or false'))
export const id = textOf(64)
export const name = textOf(LIMITS.name)
export const affine = valueOf<Affine>(
  'six finite numbers [a, b, c, d, e, f]',
  (value) =>
    Array.isArray(value) && value.length === 6 && value.every((n) => typeof n === 'number' && Math.abs(n) <= 1e9),
)

/** Only there where it differs from the usual. */
export const optional = <T>(schema: Schema<T>) => v.optional(schema)
export const or = <T>(schema: Schema<T>, usual: T) => v.optional(schema, usual as never)

/** An object of these fields; others are left out. @param what it is: "a mask" */
export const recordOf = <F extends v.ObjectEntries>(what: string, fields: F) =>
  v.object(fields, ({ path }) => (path ? ': is missing.' : takes(what)))

/** What `problemOf` says nothing about; what it says follows the value's path. */
export const without = <T>(schema: Schema<T>, problemOf: (value: T) => string | undefined): Schema<T> =>
  v.pipe(
    schema,
    v.rawCheck(({ dataset, addIssue }) => {
      const message = dataset.typed ? problemOf(dataset.value) : undefined
      if (message) addIssue({ message })
    }),
  )

/** Up to `most`, each with an id of its own. @param what they are: "layers" */
export const listOf = <T extends { readonly id: string }>(
  what: string,
  entry: Schema<T>,
  most: number,
): Schema<readonly T[]> =>
  without(
    // Nothing is made of a list that is too long.
    v.pipe(
      valueOf<unknown>(`a list of up to ${most} ${what}`, (list) => Array.isArray(list) && list.length <= most),
      v.array(entry),
    ),
    (list) =>
      new Set(list.map((each) => each.id)).size === list.length ? undefined : takes(`${what} with ids of their own`),
  )

/** Read by a function that throws RecordError or ProjectError with sentences that begin with the path it is given. */
export const by = <T>(parse: (value: unknown, path: string) => T): Schema<T> =>
  v.pipe(
    v.unknown(),
    v.rawTransform(({ dataset, addIssue, NEVER }) => {
      const root = 'it'
      try {
        return parse(dataset.value, root)
      } catch (error) {
        if (!(error instanceof RecordError || error instanceof ProjectError)) throw error
        addIssue({ message: error.message.slice(root.length) })
        return NEVER
      }
    }),
  )

/** What was read once is not looked through again as long as it cannot change. */
export const once = <T>(schema: Schema<T>): Schema<T> =>
  by((value, path) => checkOnce(value, () => read(schema, value, path)))
