import { type FindingKind } from './step'
import { type Point } from '../vector/fill'
import { flag, points } from '../fields/fields'

export interface PolygonFields {
  /** Corners in order, px; the last joins the first. Fewer than three enclose nothing. */
  points: readonly Point[]
  antialias: boolean
}

/** A freehand or corner-by-corner outline with exact-area edges; where it crosses itself, even-odd. */
export const polygon: FindingKind<'polygon', PolygonFields> = {
  kind: 'polygon',
  finds: true,
  looksAtPixels: false,
  fields: { points: points(100_000), antialias: flag(true) },
}
