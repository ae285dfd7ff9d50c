import { length, number } from '../../fields/fields'
import { type Adjustment, gaussianReach, luma } from './adjustment'

/** Contrast against the surroundings, `radius` px wide, in the middle tones; below 0 it softens. Common practice: a wide unsharp mask on luma. */
export const clarity: Adjustment<'clarity', { amount: number; radius: number }> = {
  kind: 'clarity',
  values: 'encoded',
  reach: ({ radius }) => gaussianReach(radius),
  fields: { amount: number(-1, 1, 0), radius: length(60) },
  rows({ amount, radius }, { width }, _, surround) {
    if (amount === 0) return null
    const around = surround.gaussian(radius / 2)
    return (row, y) => {
      for (let i = 0, j = y * width * 4; i < row.length; i += 4, j += 4) {
        const tone = luma(row[i], row[i + 1], row[i + 2])
        const by = amount * 4 * tone * (1 - tone) * (tone - luma(around[j], around[j + 1], around[j + 2]))
        row[i] += by
        row[i + 1] += by
        row[i + 2] += by
      }
    }
  },
}
