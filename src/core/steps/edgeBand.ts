import { type FindingKind } from './step'
import { type Field, optional, pixels, points, scaledLength, signedLength } from '../fields/fields'
import { type Point } from '../vector/fill'

export interface EdgeBandFields {
  /** px; the last point joins the first. */
  points: readonly Point[]
  /** How far the edge may lie from the outline, px. */
  width: number
  /** The same at each point, px, where it differs. */
  widths?: readonly number[]
  /** Moves the found edge out (+) or in (−), px. */
  offset: number
}

const widths = (): Field<readonly number[]> => ({
  takes: 'a list of widths, numbers in px from 0 to 1000',
  accepts: (v): v is readonly number[] =>
    Array.isArray(v) && v.length <= 100_000 && v.every((n) => typeof n === 'number' && n >= 0 && n <= 1000),
  scaled: (value, by) => value.map((width) => Math.min(1000, scaledLength(width, by))),
})

/**
 * Edge band: a loosely drawn closed outline; the true edge is found inside a band around it, as the cheapest cut through the band between
 * the colours along its inner and its outer side.
 * Sources: Boykov and Jolly, ICCV 2001; Xu, Bansal and Ahuja, "Object segmentation using graph cuts based active contours", CVPR 2003 (the cut in a band around a contour).
 */
export const edgeBand: FindingKind<'edgeBand', EdgeBandFields> = {
  kind: 'edgeBand',
  finds: true,
  looksAtPixels: true,
  fields: { points: points(100_000), width: pixels(1, 1000, 24), widths: optional(widths()), offset: signedLength(0) },
}
