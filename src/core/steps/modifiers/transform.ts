import { type ModifyingKind } from '../step'
import { matrix } from '../../fields/fields'

/** Moves, scales and turns the selection without its pixels: [a, b, c, d, e, f], x' = a·x + c·y + e, y' = b·x + d·y + f. What a flat matrix would flatten is nothing. */
export const transform: ModifyingKind<
  'transform',
  { matrix: readonly [number, number, number, number, number, number] }
> = {
  kind: 'transform',
  finds: false,
  fields: { matrix: matrix() },
  // Once an enlarged edge ended a px beyond what was covered.
  version: 2,
}
