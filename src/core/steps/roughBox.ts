import { type FindingKind } from './step'
import { FARTHEST, type Field, flag, optional, points, scaledPoint } from '../fields/fields'
import { type Point } from '../vector/fill'

export interface RoughBoxFields {
  /** Left, top, right, bottom, px. */
  box?: readonly [number, number, number, number]
  /** A loop instead of a box, px. */
  outline?: readonly Point[]
  /** False takes the outline as it is drawn. */
  analyse: boolean
  /** Anti-aliased by the picture's colours at the edge; false: hard. */
  smoothEdge: boolean
}

const box4 = (): Field<readonly [number, number, number, number]> => ({
  takes: '[left, top, right, bottom], four numbers in px',
  accepts: (v): v is readonly [number, number, number, number] =>
    Array.isArray(v) && v.length === 4 && v.every((n) => typeof n === 'number' && Math.abs(n) <= FARTHEST),
  scaled: ([left, top, right, bottom], by) => {
    const [l, t] = scaledPoint([left, top], by),
      [r, b] = scaledPoint([right, bottom], by)
    return [l, t, r, b]
  },
})

/**
 * Rough box: a sloppy box or loop around a thing finds the thing.
 */
export const roughBox: FindingKind<'roughBox', RoughBoxFields> = {
  kind: 'roughBox',
  finds: true,
  looksAtPixels: true,
  fields: { box: optional(box4()), outline: optional(points(100_000)), analyse: flag(true), smoothEdge: flag(true) },
}
