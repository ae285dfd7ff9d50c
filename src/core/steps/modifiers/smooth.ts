import { type ModifyingKind } from '../step'
import { length } from '../../fields/fields'

/**
 * Rounds off what is smaller than `radius` px along the edge: blurred with a sigma of radius/2, then made as crisp again as an
 * anti-aliased edge is (a blurred straight edge rises by 1/(σ√2π) a pixel, so that is multiplied back).
 */
export const smooth: ModifyingKind<'smooth', { radius: number }> = {
  kind: 'smooth',
  finds: false,
  fields: { radius: length() },
}
