/**
 * The thing on whose outline anchors lie: the network is shown them, and what the lines from one to the next enclose.
 * Source: Maninis, Caelles, Pont-Tuset and Van Gool, "Deep extreme cut", CVPR 2018 (a network shown places on an outline).
 */
import { boundsOfPoints } from '../raster/bounds'
import { type MarksFields } from '../steps/marks'
import { type Point } from '../vector/fill'
import { cutByNetwork } from './cutFromOutline'
import { type Turn } from './inTurn'
import { givenBy } from './marksInTurn'
import { type SegmentView } from './view'

/** What anchors say, px of the picture. */
export interface Anchored {
  readonly anchors: readonly Point[]
  /** What is meant lies within. */ readonly outline: readonly Point[]
  readonly keep: MarksFields['keep']
  readonly drop: MarksFields['drop']
}

/** All of it is decided together. @param what tells the view from others */
export function turnOfAnchors({ anchors, outline, keep, drop }: Anchored, view: SegmentView, what: string): Turn {
  const marks = { outline, keep, drop, unsure: [], solver: 'auto' } as const,
    given = (part: SegmentView, level: number) => givenBy(marks, part, level).state,
    first = (mark: { readonly points: readonly Point[] }) => mark.points[0],
    hints = { anchors, box: boundsOfPoints(outline), keep: keep.map(first), drop: drop.map(first) }
  return {
    key: `anchors ${what} ${JSON.stringify([anchors, outline, keep, drop])}`,
    marked: [],
    given,
    decide: (_, work) => cutByNetwork(view, given(view, view.levels.length - 1), hints, work),
  }
}
