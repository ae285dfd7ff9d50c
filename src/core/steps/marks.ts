import { type FindingKind } from './step'
import { oneOf, optional, points } from '../fields/fields'
import { type Solver, SOLVERS } from '../fields/solver'
import { type Mark, marks as markField } from '../fields/marks'
import { type Point } from '../vector/fill'

export interface MarksFields {
  /** A rough outline, px: what lies outside it is dropped. */
  outline?: readonly Point[]
  /** Marks of a later turn correct what those before decided: keep marks only add, drop marks only take away. */
  keep: readonly Mark[]
  drop: readonly Mark[]
  unsure: readonly Mark[]
  /** How what is unsure is solved. */
  solver: Solver
}

const turnOf = ({ turn = 0 }: Mark): number => turn

/** The turns in which something was marked, in their order; an outline is of the first. */
export const turnsOf = ({ keep, drop, outline }: Pick<MarksFields, 'keep' | 'drop' | 'outline'>): number[] =>
  [...new Set([...(outline ? [0] : []), ...[...keep, ...drop].map(turnOf)])].sort((a, b) => a - b)

/** Those of marks that were set by a turn. */
export const marksUntil = (marks: readonly Mark[], turn: number): Mark[] => marks.filter((mark) => turnOf(mark) <= turn)

/** Whether some of marks were set in a turn. */
export const someIn = (marks: readonly Mark[], turn: number): boolean => marks.some((mark) => turnOf(mark) === turn)

/**
 * Marks: what is kept, what is dropped, what is unsure. From the marked places colours and reach decide everywhere else, then the cut along edges.
 * Sources: Boykov and Jolly, ICCV 2001 (marks as hard constraints of a cut); Price, Morse and Cohen, "Geodesic graph cut for interactive
 * image segmentation", CVPR 2010 (reach from the marks beside their colours).
 */
export const marks: FindingKind<'marks', MarksFields> = {
  kind: 'marks',
  finds: true,
  looksAtPixels: true,
  drafts: true,
  fields: {
    outline: optional(points(100_000)),
    keep: markField({ turns: true, fallback: [] }),
    drop: markField({ turns: true, fallback: [] }),
    unsure: markField({ fallback: [] }),
    solver: oneOf(SOLVERS, 'auto'),
  },
}
