import { type ModifyingKind } from '../step'
import { flag, number, oneOf, pixels } from '../../fields/fields'
import { type Solver, SOLVERS } from '../../fields/solver'
import { type Mark, marks } from '../../fields/marks'

export type EdgeStroke = Mark & { readonly mode: 'unsure' | 'keep' | 'drop' }

export interface EdgeFields {
  /** How far the edge is solved on either side, px; 0 leaves it as it is. */
  reach: number
  /** Fine things that cross the band's outer border are solved too, up to some way beyond it. */
  follow: boolean
  /** Rounds off what is smaller along the hard parts of the outline, px. */
  smooth: number
  feather: number
  /** 0 leaves coverage as it is, 1 makes it all or nothing. */
  crispness: number
  /** Moves the edge, px, out where positive. */
  offset: number
  /** Later ones go over earlier ones. */
  strokes: readonly EdgeStroke[]
  solver: Solver
}

/**
 * The edge of a selection as a matte: a band on either side is solved from what is sure beyond it, then strokes in their order, each
 * where it lies; what comes out is rounded, softened, crisped and moved without being solved again.
 * The solvers and their sources stand in core/matting.
 */
export const edge: ModifyingKind<'edge', EdgeFields> = {
  kind: 'edge',
  finds: false,
  looksAtPixels: true,
  fields: {
    reach: pixels(0, 1000, 12),
    follow: flag(true),
    smooth: pixels(0, 100, 0),
    feather: pixels(0, 1000, 0),
    crispness: number(0, 1, 0),
    offset: pixels(-1000, 1000, 0),
    strokes: marks({ modes: ['unsure', 'keep', 'drop'] as const, fallback: [] }),
    solver: oneOf(SOLVERS, 'auto'),
  },
}
