/** What a field of a step takes: its default, and a sentence for when a value is wrong. Finders list theirs; recipes are checked against them. */

export interface Field<T> {
  /** What it takes, for people: "a number from 0 to 255". */
  readonly takes: string
  /** Absent when the field must be given, unless it is optional. */
  readonly fallback?: T
  /** The least and the most, of a number. */
  readonly ends?: readonly [number, number]
  /** It may be left out, and then is not there. */
  readonly optional?: true
  readonly accepts: (value: unknown) => value is T
  /** What an accepted value is read as, where that is another. */
  reads?(value: T): T
  /** The same on a canvas of another size. Absent: it does not depend on that. @param record the other fields */
  scaled?(value: T, by: Scale, record: Readonly<Record<string, unknown>>): T
}
/** From one canvas to another: how many times as wide and as high things are, and then where they are moved, px. Lengths in no one direction grow by the geometric mean. */
export interface Scale {
  readonly x: number
  readonly y: number
  readonly left?: number
  readonly top?: number
}
export const scaledLength = (value: number, { x, y }: Scale): number => value * Math.sqrt(x * y)
export const scaledPoint = <P extends readonly number[]>([px, py, ...rest]: P, by: Scale): P =>
  [scaledPlace(px, 'x', by), scaledPlace(py, 'y', by), ...rest] as unknown as P
export const scaledPlace = (value: number, axis: Axis, by: Scale): number =>
  value * by[axis] + ((axis === 'x' ? by.left : by.top) ?? 0)
export type Axis = 'x' | 'y'
export type Fields<P> = { readonly [K in keyof P]-?: Field<NonNullable<P[K]>> }

/** The farthest coordinate or length a recipe may name, in px. */
export const FARTHEST = 1e7

const isNumber = (value: unknown, min: number, max: number): value is number =>
  typeof value === 'number' && value >= min && value <= max

export const number = (min: number, max: number, fallback?: number, unit?: string): Field<number> => ({
  takes: `a number ${unit ? `of ${unit} ` : ''}from ${min} to ${max}`,
  fallback,
  ends: [min, max],
  accepts: (v): v is number => isNumber(v, min, max),
})
/** px from the left ("x") or the top. */
export const coordinate = (axis: Axis, fallback?: number): Field<number> => ({
  ...number(-FARTHEST, FARTHEST, fallback, 'px'),
  scaled: (value, by) => scaledPlace(value, axis, by),
})
/** A width ("x") or a height, px: what lies beyond the canvas does not count. */
export const extent = (axis: Axis): Field<number> => ({
  ...number(0, FARTHEST, undefined, 'px'),
  scaled: (value, by) => value * by[axis],
})
/** A length with limits of its own, px. */
export const pixels = (min: number, max: number, fallback?: number): Field<number> => ({
  ...number(min, max, fallback, 'px'),
  scaled: (value, by) => Math.max(min, Math.min(max, scaledLength(value, by))),
})
/** No canvas is so large that a softer, wider or farther one would look different, px. */
export const LONGEST_LENGTH = 60_000
const within = (value: number): number => Math.max(-LONGEST_LENGTH, Math.min(LONGEST_LENGTH, value))
/** A radius, a distance, a reach, px; longer ones are read as the longest that makes a difference. */
export const length = (fallback?: number): Field<number> => ({
  ...number(0, FARTHEST, fallback, 'px'),
  reads: within,
  scaled: scaledLength,
})
/** The same, outwards (+) or inwards (−). */
export const signedLength = (fallback?: number): Field<number> => ({
  ...number(-FARTHEST, FARTHEST, fallback, 'px'),
  reads: within,
  scaled: scaledLength,
})
/** How far something is turned, degrees clockwise: what was turned round several times is kept as it is. */
export const turn = (): Field<number> => number(-36000, 36000, 0, 'degrees')
export const flag = (fallback: boolean): Field<boolean> => ({
  takes: 'true or false',
  fallback,
  accepts: (v): v is boolean => typeof v === 'boolean',
})
/** Names of things, in characters (UTF-16 units). */
export const LONGEST_NAME = 200
/** What no text may hold: NUL, and half of a pair of surrogates. Neither can be stored. */
export const UNKEEPABLE = /[\0\p{Surrogate}]/u
export const isText = (v: unknown, longest: number): v is string =>
  typeof v === 'string' && v.length <= longest && !UNKEEPABLE.test(v)
export const text = (longest: number): Field<string> => ({
  takes: `a text of up to ${longest} characters`,
  accepts: (v): v is string => isText(v, longest),
})
export const oneOf = <T extends string | number>(values: readonly T[], fallback?: T): Field<T> => ({
  takes: `one of ${values.map((v) => JSON.stringify(v)).join(', ')}`,
  fallback,
  accepts: (v): v is T => values.includes(v as T),
})
/** The same, where earlier versions had other names for some. */
export const oneOfNamed = <T extends string>(values: readonly T[], earlier: Readonly<Record<string, T>>): Field<T> => ({
  ...oneOf(values),
  accepts: (v): v is T => values.includes(v as T) || (typeof v === 'string' && Object.hasOwn(earlier, v)),
  reads: (value) => (Object.hasOwn(earlier, value) ? earlier[value] : value),
})
const isPoint = (v: unknown): v is readonly [number, number] =>
  Array.isArray(v) && v.length === 2 && v.every((n) => isNumber(n, -FARTHEST, FARTHEST))
/** A field that may be left out. */
export const optional = <T>(field: Field<T>): Field<T> & { readonly optional: true } => ({ ...field, optional: true })
/** Up to `most` points. */
export const points = (most: number): Field<readonly (readonly [number, number])[]> => ({
  takes: `a list of up to ${most} points [x, y], numbers in px from ${-FARTHEST} to ${FARTHEST}`,
  accepts: (v): v is readonly (readonly [number, number])[] => Array.isArray(v) && v.length <= most && v.every(isPoint),
  scaled: (value, by) => value.map((each) => scaledPoint(each, by)),
})
export const point = (): Field<readonly [number, number]> => ({
  takes: '[x, y], two numbers in px',
  accepts: isPoint,
  scaled: scaledPoint,
})
/** Up to `most` colours. */
export const colours = (most: number): Field<readonly (readonly [number, number, number])[]> => ({
  takes: `a list of up to ${most} colours [red, green, blue], whole numbers from 0 to 255`,
  accepts: (v): v is readonly (readonly [number, number, number])[] =>
    Array.isArray(v) &&
    v.length <= most &&
    v.every((c) => Array.isArray(c) && c.length === 3 && c.every((n) => Number.isInteger(n) && isNumber(n, 0, 255))),
})
/** An area in px². */
export const area = (fallback?: number): Field<number> => ({
  ...number(0, 1e12, fallback, 'px²'),
  scaled: (value, { x, y }) => Math.min(1e12, value * x * y),
})
export const matrix = (): Field<readonly [number, number, number, number, number, number]> => ({
  takes: 'six numbers [a, b, c, d, e, f]',
  accepts: (v): v is readonly [number, number, number, number, number, number] =>
    Array.isArray(v) && v.length === 6 && v.every((n) => isNumber(n, -FARTHEST, FARTHEST)),
  // There and back: to the first canvas, through the matrix, to the second.
  scaled: ([a, b, c, d, e, f], { x, y, left = 0, top = 0 }) => {
    const across = (b * y) / x,
      down = (c * x) / y
    return [a, across, down, d, e * x + left - a * left - down * top, f * y + top - across * left - d * top]
  },
})
/** Up to `most` whole numbers; none when left out. */
export const wholes = (min: number, max: number, most: number): Field<readonly number[]> => ({
  takes: `a list of up to ${most} whole numbers from ${min} to ${max}`,
  fallback: [],
  accepts: (v): v is readonly number[] =>
    Array.isArray(v) && v.length <= most && v.every((n) => Number.isInteger(n) && isNumber(n, min, max)),
})
/** Just so many numbers. */
export const numbers = (
  min: number,
  max: number,
  count: number,
  fallback?: readonly number[],
): Field<readonly number[]> => ({
  takes: `${count} numbers from ${min} to ${max}`,
  fallback,
  accepts: (v): v is readonly number[] =>
    Array.isArray(v) && v.length === count && v.every((n) => isNumber(n, min, max)),
})
