import { type Field, number } from '../../fields/fields'
import { type Adjustment, smoothStep } from './adjustment'

/** A part of the hue circle with changes of its own: all within half its width of the middle, fading over `soft` degrees beyond. */
export interface HueRange {
  readonly hue: number
  readonly width: number
  readonly soft: number
  readonly turn: number
  readonly saturation: number
  readonly lightness: number
}
const MOST_RANGES = 12
const inRange = (v: unknown, min: number, max: number): boolean => typeof v === 'number' && v >= min && v <= max
const isRange = (v: unknown): boolean => {
  const range = v as HueRange | null
  return (
    typeof range === 'object' &&
    range !== null &&
    inRange(range.hue, 0, 360) &&
    inRange(range.width, 1, 360) &&
    inRange(range.soft, 0, 180) &&
    inRange(range.turn, -180, 180) &&
    inRange(range.saturation, -1, 1) &&
    inRange(range.lightness, -1, 1)
  )
}
const ranges: Field<readonly HueRange[]> = {
  takes: `up to ${MOST_RANGES} ranges { hue 0-360, width 1-360, soft 0-180, turn -180-180, saturation -1-1, lightness -1-1 }`,
  fallback: [],
  accepts: (v): v is readonly HueRange[] => Array.isArray(v) && v.length <= MOST_RANGES && v.every(isRange),
}

/** Below this chroma a colour has no hue worth naming: ranges fade out. */
const GREY = 0.02
const RADIANS = Math.PI / 180

/** How much a hue (degrees) belongs to a range, 0-1. */
export function belongs(range: HueRange, hue: number): number {
  const apart = Math.abs(((hue - range.hue + 540) % 360) - 180),
    half = range.width / 2
  return range.soft === 0 ? (apart <= half ? 1 : 0) : 1 - smoothStep(half, half + range.soft, apart)
}

/** What each degree of hue gets of the ranges it belongs to: turn (radians), factor of chroma less 1, lightness. */
function byHue(parts: readonly HueRange[]): Float32Array {
  const table = new Float32Array(361 * 3)
  for (let degree = 0; degree <= 360; degree++) {
    for (const part of parts) {
      const share = belongs(part, degree)
      table[degree * 3] += share * part.turn * RADIANS
      table[degree * 3 + 1] += share * part.saturation
      table[degree * 3 + 2] += share * part.lightness
    }
  }
  return table
}

/** Hue turned, chroma scaled, lightness moved, overall and by ranges of hue, in OKLCh: what looks equally light stays so. */
export const hueSaturation: Adjustment<
  'hueSaturation',
  { turn: number; saturation: number; lightness: number; ranges: readonly HueRange[] }
> = {
  kind: 'hueSaturation',
  values: 'linear',
  fields: { turn: number(-180, 180, 0), saturation: number(-1, 1, 0), lightness: number(-1, 1, 0), ranges },
  kernel({ turn, saturation, lightness, ranges: parts }) {
    const active = parts.filter((part) => part.turn !== 0 || part.saturation !== 0 || part.lightness !== 0)
    if (turn === 0 && saturation === 0 && lightness === 0 && !active.length) return null
    return {
      table: active.length ? byHue(active) : undefined,
      run: (kernels, at, count, table) =>
        kernels.turnHues(at, count, turn * RADIANS, 1 + saturation, lightness, table, GREY),
    }
  },
}
