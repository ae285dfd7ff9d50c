import { path as pathStep, type PathFields } from '../steps/path'
import { pathOutlines } from '../vector/path'
import { filled } from './filled'
import { type Finder } from './finder'

/** A Bézier outline with exact-area edges, nonzero. */
export const path: Finder<'path', PathFields> = {
  ...pathStep,
  find: (scene, params, context) => filled(scene, pathOutlines(params.d), 'nonzero', params.antialias, context),
}
