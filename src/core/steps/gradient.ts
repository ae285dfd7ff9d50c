import { type FindingKind } from './step'
import { EARLIER_SHAPES, RAMP_SHAPES, type RampShape } from '../raster/ramp'
import { type Field, oneOfNamed, point } from '../fields/fields'

export interface GradientFields {
  shape: RampShape
  from: readonly [number, number]
  to: readonly [number, number]
  /** Places along the way and coverage there, both 0-1. */
  stops: readonly (readonly [number, number])[]
}

const MOST_STOPS = 64

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
export const gradient: FindingKind<'gradient', GradientFields> = {
  kind: 'gradient',
  finds: true,
  looksAtPixels: false,
  fields: { shape: oneOfNamed(RAMP_SHAPES, EARLIER_SHAPES), from: point(), to: point(), stops },
}
