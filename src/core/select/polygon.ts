import { polygon as polygonStep, type PolygonFields } from '../steps/polygon'
import { filled } from './filled'
import { type Finder } from './finder'

/** A freehand or corner-by-corner outline with exact-area edges; where it crosses itself, even-odd. */
export const polygon: Finder<'polygon', PolygonFields> = {
  ...polygonStep,
  find: (scene, params, context) =>
    filled(scene, params.points.length > 2 ? [params.points] : [], 'evenodd', params.antialias, context),
}
