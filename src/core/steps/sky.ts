import { type FindingKind } from './step'
import { number } from '../fields/fields'

export interface SkyFields {
  /** Moves the boundary down (+) or up (−), px. */
  offset: number
  /** 0-1: how far old and new mix at the boundary. */
  blend: number
  /** 0-1: how willingly small openings between branches or railings are taken as sky. */
  fillGaps: number
  /** 0-1: how thin the twigs and wires are that stay. */
  detail: number
}

/**
 * Sky: by what its regions look like and where they lie; openings between branches are found by colour, twigs and wires kept.
 */
export const sky: FindingKind<'sky', SkyFields> = {
  kind: 'sky',
  finds: true,
  looksAtPixels: true,
  version: 2,
  fields: {
    offset: number(-1000, 1000, 0),
    blend: number(0, 1, 0.3),
    fillGaps: number(0, 1, 0.1),
    detail: number(0, 1, 0.3),
  },
}
