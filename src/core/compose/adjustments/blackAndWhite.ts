import { number } from '../../fields/fields'
import { type Adjustment } from './adjustment'

/** Grey from shares of red, green and blue light; shares that add up to 1 keep white white. */
export const blackAndWhite: Adjustment<'blackAndWhite', { red: number; green: number; blue: number }> = {
  kind: 'blackAndWhite',
  values: 'encoded',
  fields: { red: number(-2, 3, 0.2126), green: number(-2, 3, 0.7152), blue: number(-2, 3, 0.0722) },
  rows:
    ({ red, green, blue }) =>
    (row) => {
      for (let i = 0; i < row.length; i += 4)
        row[i] = row[i + 1] = row[i + 2] = red * row[i] + green * row[i + 1] + blue * row[i + 2]
    },
}
