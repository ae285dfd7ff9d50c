/** What a field of a step takes: its default, and a sentence for when a value is wrong. Finders list theirs; recipes are checked against them. */

export interface Field<T> {
  /** What it takes, for people: "a number from 0 to 255". */
  readonly takes: string
  /** Absent when the field must be given. */
  readonly fallback?: T
  readonly accepts: (value: unknown) => value is T
}
export type Fields<P> = { readonly [K in keyof P]-?: Field<NonNullable<P[K]>> }

/** The farthest coordinate or length a recipe may name, in px. */
export const FARTHEST = 1e7

const isNumber = (value: unknown, min: number, max: number): value is number => typeof value === 'number' && value >= min && value <= max

export const number = (min: number, max: number, fallback?: number): Field<number> =>
  ({ takes: `a number from ${min} to ${max}`, fallback, accepts: (v): v is number => isNumber(v, min, max) })
export const coordinate = (fallback?: number): Field<number> => number(-FARTHEST, FARTHEST, fallback)
export const length = (fallback?: number): Field<number> => number(0, FARTHEST, fallback)
export const flag = (fallback: boolean): Field<boolean> => ({ takes: 'true or false', fallback, accepts: (v): v is boolean => typeof v === 'boolean' })
export const text = (longest: number): Field<string> => ({ takes: `a text of up to ${longest} characters`, accepts: (v): v is string => typeof v === 'string' && v.length <= longest })
export const oneOf = <T extends string | number>(values: readonly T[], fallback?: T): Field<T> =>
  ({ takes: `one of ${values.map((v) => JSON.stringify(v)).join(', ')}`, fallback, accepts: (v): v is T => values.includes(v as T) })
export const point = (): Field<readonly [number, number]> =>
  ({ takes: '[x, y], two numbers in px', accepts: (v): v is readonly [number, number] => Array.isArray(v) && v.length === 2 && v.every((n) => isNumber(n, -FARTHEST, FARTHEST)) })
