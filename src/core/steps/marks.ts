import { type FindingKind } from './step'
import { oneOf, optional, points } from '../fields/fields'
import { type Solver, SOLVERS } from '../fields/solver'
import { type Mark, marks as markField } from '../fields/marks'
import { type Point } from '../vector/fill'

export interface MarksFields {
  /** A rough outline, px: what lies outside it is dropped. */
  outline?: readonly Point[]
  keep: readonly Mark[]
  drop: readonly Mark[]
  unsure: readonly Mark[]
  /** How what is unsure is solved. */
  solver: Solver
}

/**
 * Marks: what is kept, what is dropped, what is unsure. From the marked places colours and reach decide everywhere else, then the cut along edges.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Price, Morse and Cohen, "Geodesic graph cut for interactive
 * image segmentation", CVPR 2010 (reach from the marks beside their colours).
 */
export const marks: FindingKind<'marks', MarksFields> = {
  kind: 'marks',
  version: 3,
  finds: true,
  looksAtPixels: true,
  drafts: true,
  fields: {
    outline: optional(points(100_000)),
    keep: markField([], []),
    drop: markField([], []),
    unsure: markField([], []),
    solver: oneOf(SOLVERS, 'auto'),
  },
}
