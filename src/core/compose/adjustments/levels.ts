import { type Field } from '../../fields/fields'
import { type Adjustment, ownThenAll } from './adjustment'

/** What becomes black, the middle's gamma, what becomes white, and what black and white become; 0-1, gamma 0.1-10. */
export type Levels = readonly [black: number, gamma: number, white: number, outBlack: number, outWhite: number]
export const PLAIN_LEVELS: Levels = [0, 1, 1, 0, 1]

const isLevels = (v: unknown): v is Levels =>
  Array.isArray(v) &&
  v.length === 5 &&
  v.every((n, i) => typeof n === 'number' && (i === 1 ? n >= 0.1 && n <= 10 : n >= 0 && n <= 1))
const levelsField: Field<Levels> = {
  takes: '[black 0-1, gamma 0.1-10, white 0-1, outBlack 0-1, outWhite 0-1]',
  fallback: PLAIN_LEVELS,
  accepts: isLevels,
}

const plain = (levels: Levels): boolean => levels.every((v, i) => v === PLAIN_LEVELS[i])
/** Common practice: stretched between black and white, bent by 1 / gamma, laid between the two outputs. Black at or above white makes a step. */
export const levelsCurve =
  ([black, gamma, white, outBlack, outWhite]: Levels) =>
  (v: number): number => {
    const t = white > black ? Math.min(1, Math.max(0, (v - black) / (white - black))) : v >= white ? 1 : 0
    return outBlack + (gamma === 1 ? t : t ** (1 / gamma)) * (outWhite - outBlack)
  }

/** First each channel's own, then the ones for all. */
export const levels: Adjustment<'levels', { all: Levels; red: Levels; green: Levels; blue: Levels }> = {
  kind: 'levels',
  values: 'encoded',
  fields: { all: levelsField, red: levelsField, green: levelsField, blue: levelsField },
  channels: (values) => ownThenAll(values, plain, levelsCurve),
}
