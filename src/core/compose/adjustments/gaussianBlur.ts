import { length } from '../../fields/fields'
import { type Adjustment, gaussianReach } from './adjustment'

/** Blurs by a Gaussian; `radius` px is two standard deviations. */
export const gaussianBlur: Adjustment<'gaussianBlur', { radius: number }> = {
  kind: 'gaussianBlur',
  values: 'blending',
  reach: ({ radius }) => gaussianReach(radius),
  premultiplied: true,
  replaces: ({ radius }) => radius > 0,
  fields: { radius: length(12) },
  rows({ radius }, { width }, _, surround) {
    if (radius === 0) return null
    const blurred = surround.gaussian(radius / 2)
    return (row, y) => {
      row.set(blurred.subarray(y * width * 4, (y + 1) * width * 4))
    }
  },
}
