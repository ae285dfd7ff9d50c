/** A record from outside, read by what its fields take: completed with defaults, or refused with the field and what it takes. */
import { type Field } from './fields'

/** A sentence for people, naming the field. */
export class RecordError extends Error {}

/** What fields make: those that may be left out may not be there. */
type Out<F> = { readonly [K in keyof F as F[K] extends { readonly optional: true } ? never : K]: Value<F[K]> } & {
  readonly [K in keyof F as F[K] extends { readonly optional: true } ? K : never]?: Value<F[K]>
}
type Value<F> = F extends Field<infer T> ? T : never
export type RecordOfFields<F> = { [K in keyof Out<F>]: Out<F>[K] }

export const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
/** A value as a sentence shows it. */
export const shown = (value: unknown): string => {
  const json = JSON.stringify(value) ?? String(value)
  return json.length > 60 ? `${json.slice(0, 57)}...` : json
}

/** @param what it is: "a step" @param path where it stands, as sentences begin. Throws RecordError */
export function objectAt(input: unknown, path: string, what: string): Record<string, unknown> {
  if (!isObject(input)) throw new RecordError(`${path}: ${what}, not ${shown(input)}.`)
  return input
}

/** The values of all fields. @param name of what has them, for the sentence about one it does not have @param besides fields that are read elsewhere. Throws RecordError */
export function completed<F extends Record<string, Field<unknown>>>(
  fields: F,
  input: Readonly<Record<string, unknown>>,
  path: string,
  name: string,
  besides?: string,
): RecordOfFields<F> {
  for (const given of Object.keys(input))
    if (given !== besides && !Object.hasOwn(fields, given))
      throw new RecordError(
        `${path}.${given}: ${name} has no such field; it takes ${Object.keys(fields).join(', ') || 'none'}.`,
      )
  const record: Record<string, unknown> = {}
  for (const [each, field] of Object.entries(fields)) {
    const value = input[each]
    if (value === undefined) {
      if (field.fallback === undefined && !field.optional)
        throw new RecordError(`${path}.${each}: is missing; it takes ${field.takes}.`)
      if (field.fallback !== undefined) record[each] = field.fallback
    } else if (field.accepts(value)) record[each] = field.reads?.(value) ?? value
    else throw new RecordError(`${path}.${each}: takes ${field.takes}, not ${shown(value)}.`)
  }
  return record as RecordOfFields<F>
}
