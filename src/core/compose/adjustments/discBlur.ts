import { length } from '../../fields/fields'
import { type Adjustment } from './adjustment'

/** Blurs as a round aperture does: every point of light becomes an even disc of `radius` px. */
export const discBlur: Adjustment<'discBlur', { radius: number }> = {
  kind: 'discBlur',
  values: 'linear',
  reach: ({ radius }) => radius + 2,
  premultiplied: true,
  replaces: ({ radius }) => radius > 0,
  fields: { radius: length(16) },
  rows({ radius }, { width }, _, surround) {
    if (radius === 0) return null
    const blurred = surround.disc(radius)
    return (row, y) => {
      row.set(blurred.subarray(y * width * 4, (y + 1) * width * 4))
    }
  },
}
