/** Strokes that mark rather than paint, as a field: points and a size. */
import { FARTHEST, type Field, scaledLength, scaledPoint } from './fields'

export interface Mark {
  /** px */ readonly points: readonly (readonly [number, number])[]
  /** Diameter, px. */ readonly size: number
  /** Where marks are set in turn: which this one belongs to; absent: 0, the first. */ readonly turn?: number
}

const MOST_STROKES = 10_000,
  MOST_POINTS = 100_000,
  LARGEST = 20_000
const isNumber = (v: unknown, min: number, max: number): boolean => typeof v === 'number' && v >= min && v <= max
const isPoint = (p: unknown): boolean =>
  Array.isArray(p) && p.length === 2 && p.every((v) => isNumber(v, -FARTHEST, FARTHEST))

interface Marks<M extends string> {
  /** What a stroke may do, where there are several. */ readonly modes?: readonly M[]
  /** Whether strokes may be set in turn. */ readonly turns?: boolean
  readonly fallback?: readonly []
}

/** Strokes with points and size. */
export function marks<M extends string = never>({
  modes = [],
  turns = false,
  fallback,
}: Marks<M>): Field<readonly (Mark & { readonly mode: M })[]> {
  const isMark = (s: unknown): boolean => {
    if (typeof s !== 'object' || s === null) return false
    const { points, size, mode, turn, ...rest } = s as Record<string, unknown>
    return (
      Object.keys(rest).length === 0 &&
      Array.isArray(points) &&
      points.length <= MOST_POINTS &&
      points.every(isPoint) &&
      isNumber(size, 0, LARGEST) &&
      (modes.length ? modes.includes(mode as M) : mode === undefined) &&
      (turn === undefined || (turns && Number.isSafeInteger(turn) && isNumber(turn, 0, Infinity)))
    )
  }
  return {
    takes: `a list of strokes { points [[x, y], ...], size up to ${LARGEST} px${modes.length ? `, mode ${modes.map((m) => JSON.stringify(m)).join(' or ')}` : ''}${turns ? ', turn=0' : ''} }`,
    fallback,
    accepts: (v): v is readonly (Mark & { readonly mode: M })[] =>
      Array.isArray(v) && v.length <= MOST_STROKES && v.every(isMark),
    scaled: (value, by) =>
      value.map((mark) => ({
        ...mark,
        points: mark.points.map((each) => scaledPoint(each, by)),
        size: Math.min(LARGEST, scaledLength(mark.size, by)),
      })),
  }
}
