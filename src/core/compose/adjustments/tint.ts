import { type Field, number } from '../../fields/fields'
import { channelsOf, type Hex, isHex } from '../fill'
import { type Adjustment, luma } from './adjustment'

const colour: Field<Hex> = { takes: 'a colour as #rrggbb', fallback: '#704214', accepts: isHex }

/** The tones of the picture in one colour: black and white stay, the colour's own tone lies where its luma does. */
export const tint: Adjustment<'tint', { colour: Hex; amount: number }> = {
  kind: 'tint',
  values: 'encoded',
  fields: { colour, amount: number(0, 1, 1) },
  rows({ colour: hex, amount }) {
    if (amount === 0) return null
    const [r, g, b] = channelsOf(hex),
      middle = Math.min(0.999, Math.max(0.001, luma(r, g, b)))
    const toned = (v: number, tone: number): number =>
      tone <= middle ? (v * tone) / middle : v + ((1 - v) * (tone - middle)) / (1 - middle)
    return (row) => {
      for (let i = 0; i < row.length; i += 4) {
        const tone = Math.min(1, Math.max(0, luma(row[i], row[i + 1], row[i + 2])))
        row[i] += amount * (toned(r, tone) - row[i])
        row[i + 1] += amount * (toned(g, tone) - row[i + 1])
        row[i + 2] += amount * (toned(b, tone) - row[i + 2])
      }
    }
  },
}
