import { type Adjustment } from './adjustment'

/** Each channel's complement. */
export const invert: Adjustment<'invert', object> = {
  kind: 'invert',
  values: 'encoded',
  fields: {},
  channels() {
    const curve = (v: number) => 1 - v
    return [curve, curve, curve]
  },
}
