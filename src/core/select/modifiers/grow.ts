import { grow as growStep } from '../../steps/modifiers/grow'
import { grow as growMatte } from '../../raster/grow'
import { type Modifier } from '../finder'

/** Moves the edge by an exact Euclidean distance: out where `by` (px) is positive, in where it is negative. */
export const grow: Modifier<'grow', { by: number }> = {
  ...growStep,
  modify: (matte, { by }) => growMatte(matte, by),
}
