import { number } from '../../fields/fields'
import { type Adjustment } from './adjustment'

/** Stops of light: one more doubles it. */
export const exposure: Adjustment<'exposure', { stops: number }> = {
  kind: 'exposure',
  values: 'linear',
  fields: { stops: number(-10, 10, 0) },
  channels({ stops }) {
    if (stops === 0) return null
    const curve = (v: number) => v * 2 ** stops
    return [curve, curve, curve]
  },
}
