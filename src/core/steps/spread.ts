import { type FindingKind } from './step'
import { flag } from '../fields/fields'
import { type Mark, marks } from '../fields/marks'

export interface SpreadFields {
  /** In the order they were made: a later stroke goes over an earlier one; those that drop add nothing, those that keep after them lose nothing. */
  strokes: readonly (Mark & { readonly mode: 'keep' | 'drop' })[]
  /** Anti-aliased by the picture's colours at the edge. */
  smoothEdge: boolean
}

/**
 * Spread: brush over a part, and the selection grows to the edges of what was touched; strokes that drop take away.
 * Source: Liu, Sun and Shum, "Paint Selection", SIGGRAPH 2009 (growing from strokes by colours and a cut on a coarse level, the boundary refined at full size).
 */
export const spread: FindingKind<'spread', SpreadFields> = {
  kind: 'spread',
  finds: true,
  looksAtPixels: true,
  drafts: true,
  fields: { strokes: marks({ modes: ['keep', 'drop'] as const }), smoothEdge: flag(true) },
}
