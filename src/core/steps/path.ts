import { type FindingKind } from './step'
import { PathError } from '../vector/readPath'
import { type Point } from '../vector/fill'
import { pathData, pathOutlines, subpathsOf } from '../vector/path'
import { FARTHEST, type Field, flag, scaledPoint } from '../fields/fields'

export interface PathFields {
  /** SVG path data, px. Open subpaths are closed. */
  d: string
  antialias: boolean
}

const LONGEST = 1_000_000

/** Path data that can be read, its coordinates within the farthest a recipe may name. */
const pathField: Field<string> = {
  takes: `SVG path data (M L H V C S Q T A Z) with coordinates from ${-FARTHEST} to ${FARTHEST}`,
  accepts: (v): v is string => {
    if (typeof v !== 'string' || v.length > LONGEST) return false
    try {
      return pathOutlines(v).every((outline) =>
        outline.every(([x, y]) => Math.abs(x) <= FARTHEST && Math.abs(y) <= FARTHEST),
      )
    } catch (error) {
      if (error instanceof PathError) return false
      throw error
    }
  },
  scaled: (d, by) => {
    const scaled = (at: Point | undefined) => at && scaledPoint(at, by)
    return pathData(
      subpathsOf(d).map((subpath) => ({
        ...subpath,
        nodes: subpath.nodes.map(({ at, into, out }) => ({
          at: scaledPoint(at, by),
          into: scaled(into),
          out: scaled(out),
        })),
      })),
    )
  },
}

/** A Bézier outline with exact-area edges, nonzero. */
export const path: FindingKind<'path', PathFields> = {
  kind: 'path',
  finds: true,
  looksAtPixels: false,
  fields: { d: pathField, antialias: flag(true) },
}
