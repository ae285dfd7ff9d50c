import { grow as growMatte } from '../../raster/grow'
import { signedLength } from '../../common/fields'
import { type Modifier } from '../finder'

/** Moves the edge by an exact Euclidean distance: out where `by` (px) is positive, in where it is negative. */
export const grow: Modifier<'grow', { by: number }> = {
  kind: 'grow',
  finds: false,
  fields: { by: signedLength() },
  modify: (matte, { by }) => growMatte(matte, by),
}
