/** Strokes that mark rather than paint: points and a size. */
import { FARTHEST, type Field } from '../common/fields'
import { paintStrokes } from '../raster/brush'
import { emptyMatte, type Matte, type Size } from '../raster/picture'
import { type Box } from '../raster/content'

export interface Mark {
  /** px */ readonly points: readonly (readonly [number, number])[]
  /** Diameter, px. */ readonly size: number
}

const MOST_STROKES = 10_000,
  MOST_POINTS = 100_000,
  LARGEST = 20_000
const isNumber = (v: unknown, min: number, max: number): boolean => typeof v === 'number' && v >= min && v <= max
const isPoint = (p: unknown): boolean =>
  Array.isArray(p) && p.length === 2 && p.every((v) => isNumber(v, -FARTHEST, FARTHEST))

/** Strokes with points and size, and a mode where there are several. */
export function marks<M extends string = never>(
  modes: readonly M[] = [],
  fallback?: readonly [],
): Field<readonly (Mark & { readonly mode: M })[]> {
  const isMark = (s: unknown): boolean => {
    if (typeof s !== 'object' || s === null) return false
    const { points, size, mode, ...rest } = s as Record<string, unknown>
    return (
      Object.keys(rest).length === 0 &&
      Array.isArray(points) &&
      points.length <= MOST_POINTS &&
      points.every(isPoint) &&
      isNumber(size, 0, LARGEST) &&
      (modes.length ? modes.includes(mode as M) : mode === undefined)
    )
  }
  return {
    takes: `a list of strokes { points [[x, y], ...], size up to ${LARGEST} px${modes.length ? `, mode ${modes.map((m) => JSON.stringify(m)).join(' or ')}` : ''} }`,
    fallback,
    accepts: (v): v is readonly (Mark & { readonly mode: M })[] =>
      Array.isArray(v) && v.length <= MOST_STROKES && v.every(isMark),
  }
}

/** What marks cover of a frame at 1 / 2^level its size. Marks thinner than a pixel there still cover one. */
export function coverMarks(strokes: readonly Mark[], frame: Box, level: number, size: Size): Matte {
  const matte = emptyMatte(size),
    scale = 1 / 2 ** level
  paintStrokes(
    matte,
    strokes
      .filter((s) => s.points.length)
      .map(({ points, size: diameter }) => ({
        points: points.map(([x, y]) => [(x - frame.x) * scale, (y - frame.y) * scale] as const),
        size: Math.max(1.5, diameter * scale),
        hardness: 1,
        strength: 1,
        spacing: 0.1,
        tip: 'round',
        erase: false,
      })),
  )
  return matte
}
