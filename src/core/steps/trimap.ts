import { type FindingKind } from './step'
import { oneOf, text } from '../fields/fields'
import { type Solver, SOLVERS } from '../fields/solver'

export interface TrimapFields {
  /** The trimap: a SHA-256 in a project, a file beside the recipe on the command line. Stretched over the canvas where it has another size. */
  asset: string
  solver: Solver
}

/** A matte solved from a trimap picture: black is outside, white inside, anything between is to be solved. */
export const trimap: FindingKind<'trimap', TrimapFields> = {
  kind: 'trimap',
  finds: true,
  looksAtPixels: true,
  fields: { asset: text(400), solver: oneOf(SOLVERS, 'auto') },
}
