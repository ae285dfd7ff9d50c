import { length, number } from '../../fields/fields'
import { type Adjustment, gaussianReach, smoothStep } from './adjustment'

/** Unsharp mask: adds the difference from a blurred copy. Differences below `threshold` (0-1), noise mostly, stay out. Common practice. */
export const sharpen: Adjustment<'sharpen', { amount: number; radius: number; threshold: number }> = {
  kind: 'sharpen',
  values: 'encoded',
  reach: ({ radius }) => gaussianReach(radius),
  fields: { amount: number(0, 5, 1), radius: length(2), threshold: number(0, 1, 0) },
  rows({ amount, radius, threshold }, { width }, _, surround) {
    if (amount === 0 || radius === 0) return null
    const around = surround.gaussian(radius / 2)
    return (row, y) => {
      for (let i = 0, j = y * width * 4; i < row.length; i += 4, j += 4) {
        for (let c = 0; c < 3; c++) {
          const difference = row[i + c] - around[j + c]
          row[i + c] +=
            amount *
            (threshold === 0
              ? difference
              : difference * smoothStep(threshold * 0.5, threshold * 1.5, Math.abs(difference)))
        }
      }
    }
  },
}
