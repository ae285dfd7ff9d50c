import { number } from '../../fields/fields'
import { type Adjustment, luma } from './adjustment'

/** Saturation for what has little of it: strong colours hardly change. */
export const vibrance: Adjustment<'vibrance', { amount: number }> = {
  kind: 'vibrance',
  values: 'encoded',
  fields: { amount: number(-1, 1, 0) },
  rows({ amount }) {
    if (amount === 0) return null
    return (row) => {
      for (let i = 0; i < row.length; i += 4) {
        const r = row[i],
          g = row[i + 1],
          b = row[i + 2],
          most = Math.max(r, g, b),
          range = most - Math.min(r, g, b)
        const k = 1 + amount * (1 - (most > 0 ? range / most : 0)),
          y = luma(r, g, b)
        row[i] = y + (r - y) * k
        row[i + 1] = y + (g - y) * k
        row[i + 2] = y + (b - y) * k
      }
    }
  },
}
