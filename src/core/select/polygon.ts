import { type Point } from '../vector/fill'
import { flag, points } from '../common/fields'
import { filled } from './filled'
import { type Finder } from './finder'

export interface PolygonFields {
  /** Corners in order, px; the last joins the first. Fewer than three enclose nothing. */
  points: readonly Point[]
  antialias: boolean
}

/** A freehand or corner-by-corner outline with exact-area edges; where it crosses itself, even-odd. */
export const polygon: Finder<'polygon', PolygonFields> = {
  kind: 'polygon',
  finds: true,
  looksAtPixels: false,
  fields: { points: points(100_000), antialias: flag(true) },
  find: (scene, params, context) =>
    filled(scene, params.points.length > 2 ? [params.points] : [], 'evenodd', params.antialias, context),
}
