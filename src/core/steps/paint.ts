import { type FindingKind } from './step'
import { type Stroke } from '../raster/stroke'
import { FARTHEST, type Field, scaledLength, scaledPoint } from '../fields/fields'

export interface PaintFields {
  strokes: readonly Stroke[]
}

const MOST_STROKES = 10_000,
  MOST_POINTS = 100_000,
  LARGEST = 20_000

const inRange = (v: unknown, min: number, max: number): boolean => typeof v === 'number' && v >= min && v <= max

const isPoint = (p: unknown): boolean =>
  Array.isArray(p) &&
  (p.length === 2 || (p.length === 3 && inRange(p[2], 0, 1))) &&
  inRange(p[0], -FARTHEST, FARTHEST) &&
  inRange(p[1], -FARTHEST, FARTHEST)

/** What a stroke has that does not say otherwise. */
export const STROKE_DEFAULTS = { hardness: 1, strength: 1, spacing: 0.1, tip: 'round', erase: false } as const

/** A stroke as it may be written: what has a default may be left out. */
function isStroke(s: unknown): boolean {
  if (typeof s !== 'object' || s === null) return false
  const { points, size, hardness, strength, spacing, tip, erase, ...rest } = { ...STROKE_DEFAULTS, ...s } as Record<
    string,
    unknown
  >
  return (
    Object.keys(rest).length === 0 &&
    Array.isArray(points) &&
    points.length <= MOST_POINTS &&
    points.every(isPoint) &&
    inRange(size, 0, LARGEST) &&
    inRange(hardness, 0, 1) &&
    inRange(strength, 0, 1) &&
    inRange(spacing, 0.01, 10) &&
    (tip === 'round' || tip === 'square') &&
    typeof erase === 'boolean'
  )
}

/** Brush strokes, as every brush that paints takes them. */
export const strokes: Field<readonly Stroke[]> = {
  takes: `a list of strokes { points [[x, y, pressure 0-1?], ...], size up to ${LARGEST} px, hardness=${STROKE_DEFAULTS.hardness} (0-1), strength=${STROKE_DEFAULTS.strength} (0-1), spacing=${STROKE_DEFAULTS.spacing} (0.01-10), tip="${STROKE_DEFAULTS.tip}" ("round" or "square"), erase=${STROKE_DEFAULTS.erase} }`,
  accepts: (v): v is readonly Stroke[] => Array.isArray(v) && v.length <= MOST_STROKES && v.every(isStroke),
  scaled: (value, by) =>
    value.map((stroke) => ({
      ...stroke,
      points: stroke.points.map((each) => scaledPoint(each, by)),
      size: Math.min(LARGEST, scaledLength(stroke.size, by)),
    })),
}

/** What was painted. The strokes stay, so size and hardness can be changed afterwards in both directions. */
export const paint: FindingKind<'paint', PaintFields> = {
  kind: 'paint',
  finds: true,
  looksAtPixels: false,
  fields: { strokes },
}
