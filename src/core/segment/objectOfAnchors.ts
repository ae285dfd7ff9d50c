/**
 * What anchors say of the object whose outline they lie on: it is in a box around them, and where one lies beside what is found there, what lies next
 * to it is kept or dropped.
 * Source: Xu, Price, Cohen, Yang and Huang, CVPR 2016 (clicks that correct).
 */
import { type Mark } from '../fields/marks'
import { boundsOfPoints } from '../raster/bounds'
import { type Size } from '../raster/picture'
import { liesWithin, nearestOn } from '../vector/contourWays'
import { type Point } from '../vector/fill'
import { type Contour } from '../vector/trace'

/** At least this share of the longer side is left around the anchors; up to as much again, since the box lies on a grid: it stays the same while one is moved a little. */
const MARGIN = 0.08

/** The box around anchors, as a loop, px. */
export function boxAround(anchors: readonly Point[]): Point[] {
  const [x0, y0, x1, y1] = boundsOfPoints(anchors),
    margin = Math.max(1, MARGIN * Math.max(x1 - x0, y1 - y0)),
    grid = 2 ** Math.floor(Math.log2(margin)),
    down = (v: number) => Math.floor((v - margin) / grid) * grid,
    up = (v: number) => Math.ceil((v + margin) / grid) * grid
  return [
    [down(x0), down(y0)],
    [up(x1), down(y0)],
    [up(x1), up(y1)],
    [down(x0), up(y1)],
  ]
}

/** Whether a way leads mostly along the box around the anchors: there what is found was cut off by it, and has no outline. Sides on or beyond the picture's border cut nothing off. */
export function leadsAlongBox(
  way: readonly Point[],
  [[left, top], , [right, bottom]]: readonly Point[],
  near: number,
  { width, height }: Size,
): boolean {
  const beside = way.filter(
    ([x, y]) =>
      (left > 0 && x - left < near) ||
      (top > 0 && y - top < near) ||
      (right < width && right - x < near) ||
      (bottom < height && bottom - y < near),
  )
  return 2 * beside.length > way.length
}

/** An anchor is on an outline within this share of a wire's reach, or of the diagonal of what the anchors span. */
const OF_REACH = 1 / 4,
  OF_DIAGONAL = 0.004

/** How far from an outline an anchor may lie to be on it, px. */
export function nearEnough(anchors: readonly Point[], reach: number): number {
  const [x0, y0, x1, y1] = boundsOfPoints(anchors)
  return Math.max(OF_REACH * reach, OF_DIAGONAL * Math.hypot(x1 - x0, y1 - y0))
}

/** More anchors than this beside what was found: it is not what is meant. */
const MOST_CORRECTIONS = 64

/** The marks that anchors beside an object's outlines are, in turn: first what they drop, then what they keep; null where none lies beside, or too many. @param clockwise whether they go round clockwise, y downwards */
export function corrections(
  anchors: readonly Point[],
  outlines: readonly Contour[],
  near: number,
  clockwise: boolean,
  { width, height }: Size,
): { keep: Mark[]; drop: Mark[] } | null {
  const on = nearestOn(outlines, anchors, near),
    beside = anchors.flatMap((_, k) => (on[k] ? [] : [k])),
    keep: Mark[] = [],
    drop: Mark[] = []
  if (beside.length > MOST_CORRECTIONS) return null
  for (const k of beside) {
    const [x, y] = anchors[k],
      found = liesWithin(outlines, anchors[k]),
      away = 2 * near * (found === clockwise ? -1 : 1),
      [nx, ny] = rightOf(anchors, k),
      place: Point = [x + away * nx, y + away * ny]
    if (place[0] < 0 || place[1] < 0 || place[0] >= width || place[1] >= height) continue
    ;(found ? drop : keep).push({ points: [place], size: 2 * near, turn: found ? 1 : 2 })
  }
  return keep.length || drop.length ? { keep, drop } : null
}

/** The direction halfway between the right-hand sides of the lines to and from an anchor, y downwards. */
function rightOf(anchors: readonly Point[], k: number): Point {
  const before = anchors[(k + anchors.length - 1) % anchors.length],
    after = anchors[(k + 1) % anchors.length],
    unit = ([x, y]: Point): Point => {
      const length = Math.hypot(x, y) || 1
      return [x / length, y / length]
    },
    [ax, ay] = unit([anchors[k][0] - before[0], anchors[k][1] - before[1]]),
    [bx, by] = unit([after[0] - anchors[k][0], after[1] - anchors[k][1]])
  return unit([-(ay + by), ax + bx])
}
