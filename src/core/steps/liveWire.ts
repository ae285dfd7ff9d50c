import { type FindingKind } from './step'
import { flag, number, points } from '../fields/fields'
import { type Point } from '../vector/fill'

export interface LiveWireFields {
  /** Places the outline goes through, px, in order; the last is joined to the first. */
  anchors: readonly Point[]
  /** How far it looks to either side of the straight line between two anchors, px. */
  width: number
  /** 0-1: gradients below this share of a strong one are no edges. */
  contrast: number
  antialias: boolean
}

/** Live wire: a closed outline that follows the strongest edges between anchors. */
export const liveWire: FindingKind<'liveWire', LiveWireFields> = {
  kind: 'liveWire',
  finds: true,
  looksAtPixels: true,
  fields: { anchors: points(10_000), width: number(1, 400, 24), contrast: number(0, 1, 0.1), antialias: flag(true) },
}
