import { type FindingKind } from './step'
import { flag, number, pixels, points } from '../fields/fields'
import { type Point } from '../vector/fill'

/** A gradient of this many CIELAB units a px is as strong as any. */
export const STRONGEST_GRADIENT = 22

export interface LiveWireFields {
  /** Places the outline goes through, px, in order; the last is joined to the first. */
  anchors: readonly Point[]
  /** How far it looks to either side of the straight line between two anchors, px. */
  reach: number
  /** Gradients below this are no edges, CIELAB units a px. */
  edgeGradient: number
  /** Where the outline of the object that the anchors lie on passes two of them, it goes along that. */
  followObject: boolean
  antialias: boolean
}

/** Live wire: a closed outline that follows the object the anchors lie on, or the strongest edges between them. */
export const liveWire: FindingKind<'liveWire', LiveWireFields> = {
  kind: 'liveWire',
  finds: true,
  looksAtPixels: true,
  drafts: true,
  fields: {
    anchors: points(10_000),
    reach: pixels(1, 400, 24),
    edgeGradient: number(0, STRONGEST_GRADIENT, 2.2, 'CIELAB units a pixel'),
    followObject: flag(true),
    antialias: flag(true),
  },
  version: 6,
  // Once it was the share of a strong edge, then levels of brightness a px.
  earlier: {
    width: (reach) => ({ reach }),
    contrast: (share) => ({ edgeGradient: share * STRONGEST_GRADIENT }),
    edgeFrom: (levels) => ({ edgeGradient: levels * 0.4 }),
  },
}
