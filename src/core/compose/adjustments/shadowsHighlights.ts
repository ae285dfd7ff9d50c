import { length, number } from '../../fields/fields'
import { type Adjustment, gaussianReach, luma, smoothStep } from './adjustment'

/** How far the slider's ends bend the tones, as powers of two of the exponent. */
const REACH = 1.2

/** Opens shadows and brings highlights back where the surroundings, `radius` px wide, are dark or light; detail in them stays. */
export const shadowsHighlights: Adjustment<
  'shadowsHighlights',
  { shadows: number; highlights: number; radius: number }
> = {
  kind: 'shadowsHighlights',
  values: 'encoded',
  reach: ({ radius }) => gaussianReach(radius),
  fields: { shadows: number(-1, 1, 0), highlights: number(-1, 1, 0), radius: length(40) },
  rows({ shadows, highlights, radius }, { width }, _, surround) {
    if (shadows === 0 && highlights === 0) return null
    const around = surround.gaussian(radius / 2)
    return (row, y) => {
      for (let i = 0, j = y * width * 4; i < row.length; i += 4, j += 4) {
        const tone = luma(around[j], around[j + 1], around[j + 2])
        const up = 2 ** (-REACH * shadows * (1 - smoothStep(0, 0.6, tone))),
          down = 2 ** (REACH * highlights * smoothStep(0.4, 1, tone))
        for (let c = i; c < i + 3; c++) {
          const v = row[c] <= 0 ? 0 : row[c] >= 1 ? 1 : row[c]
          row[c] = 1 - (1 - v ** up) ** (1 / down)
        }
      }
    }
  },
}
