import { rampPlace, RAMP_SHAPES, type RampShape, stopTable } from '../raster/ramp'
import { emptyMatte } from '../raster/picture'
import { type Field, oneOf, point } from '../common/fields'
import { type Finder } from './finder'

export interface GradientFields {
  shape: RampShape
  from: readonly [number, number]
  to: readonly [number, number]
  /** Places along the way and coverage there, both 0-1. */
  stops: readonly (readonly [number, number])[]
}

const MOST_STOPS = 64,
  STEPS = 2048
const inRange = (v: unknown): boolean => typeof v === 'number' && v >= 0 && v <= 1
const stops: Field<GradientFields['stops']> = {
  takes: `a list of 1 to ${MOST_STOPS} stops [place 0-1, coverage 0-1]`,
  fallback: [
    [0, 0],
    [1, 1],
  ],
  accepts: (v): v is GradientFields['stops'] =>
    Array.isArray(v) &&
    v.length >= 1 &&
    v.length <= MOST_STOPS &&
    v.every((stop) => Array.isArray(stop) && stop.length === 2 && stop.every(inRange)),
}

/** A ramp between two ends: along a line, about a point, or round it. */
export const gradient: Finder<'gradient', GradientFields> = {
  kind: 'gradient',
  finds: true,
  looksAtPixels: false,
  fields: { shape: oneOf(RAMP_SHAPES), from: point(), to: point(), stops },
  find(scene, { shape, from, to, stops: given }, context) {
    const matte = emptyMatte(scene),
      { width, height, data } = matte
    const place = rampPlace(shape, from, to)
    const table = Uint8Array.from(
      stopTable(
        given.map(([at, v]) => ({ at, value: [v] })),
        1,
        STEPS,
      ),
      (v) => Math.round(255 * v),
    )
    for (let y = 0, i = 0; y < height; y++) {
      if (y % 64 === 0) context.check(y / height)
      for (let x = 0; x < width; x++, i++) data[i] = table[(place(x + 0.5, y + 0.5) * STEPS + 0.5) | 0]
    }
    return matte
  },
}
