/** What was made for some layers, and under which names the tiles know it. */
import { type Affine } from '@/core/raster/affine'
import { type Made } from '../nodes'
import { type SharedMatte } from './protocol'

/** A picture as the tiles know it: every delivery has a name of its own. */
export interface Delivered {
  readonly name: string
}
/** A painted or cleaned layer's picture, and where it begins in the layer. */
export interface Placed extends Delivered {
  readonly x: number
  readonly y: number
}
/** What was made for some layers, and all that is held for them. */
export interface MadeNow extends Made<string> {
  readonly failed: ReadonlyMap<string, unknown>
}
export interface Cut {
  readonly layer: string
  readonly levels: SharedMatte
  readonly toCanvas: Affine
}
