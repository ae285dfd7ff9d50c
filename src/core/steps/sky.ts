import { type FindingKind } from './step'
import { length } from '../fields/fields'

export interface SkyFields {
  /** The widest opening between branches or railings that still counts as sky, px. */
  openings: number
  /** The thinnest thing in the sky that stays, px: thinner ones become sky. */
  twigs: number
}

const OPENINGS = 300,
  TWIGS = 1

/** Below this share of the picture a replaced sky looks odd (common practice). */
const ODD_SHARE = 0.2
/** What is to be said of a sky's share of the picture, 0-1, before it is replaced; nothing of most. */
export const smallSkyNote = (share: number): string | undefined =>
  share < ODD_SHARE
    ? `The sky is ${(100 * share).toFixed(0)} % of the picture: below a fifth, a new sky will look odd.`
    : undefined

/**
 * Sky: by what its regions look like, where they lie and what the network makes of them; openings between branches are found by colour, twigs and wires kept.
 */
export const sky: FindingKind<'sky', SkyFields> = {
  kind: 'sky',
  finds: true,
  looksAtPixels: true,
  version: 4,
  fields: { openings: length(OPENINGS), twigs: length(TWIGS) },
  /**
   * Before, `offset` moved the boundary and `blend` softened it: every step has `grow` and `feather` for that. `fillGaps` was the share of the sky's area
   * that an opening might have, `detail` how readily thin things stayed.
   */
  earlier: {
    offset: (offset) => ({ grow: offset }),
    blend: (blend) => ({ feather: Math.round(10 * BLEND * blend) / 10 }),
    fillGaps: (share) => ({ openings: Math.min(OPENINGS, Math.round(OPENINGS * Math.sqrt(share / USUAL_GAPS))) }),
    detail: (detail) => ({ twigs: TWIGS + Math.round(THICKEST * Math.max(0, 1 - detail / USUAL_DETAIL)) }),
  },
}
/** A feather as soft as the whole of the old blend was on a photo of 12 megapixels, px. */
const BLEND = 6
/** What was usual before, and the px that no detail at all comes to. */
const USUAL_GAPS = 0.1,
  USUAL_DETAIL = 0.3,
  THICKEST = 4
