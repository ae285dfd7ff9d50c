/**
 * A traced outline as few Bézier curves: corners are found first, then cubic curves are fitted between them, split where they
 * leave the points too far. Source: Schneider, "An algorithm for automatically fitting digitized curves", Graphics Gems (1990).
 */
import { type Point } from './fill'
import { type PathNode, type Subpath } from './path'
import { areaOf, type Contour, traceMatte } from './trace'
import { type Matte } from '../raster/picture'
import { minus, unit } from './vectors'
import { endDirection, fitRange } from './bezierFit'

/** Directions are compared over so many px of the outline on either side of a point; nearer ones only show the pixels' steps. */
const ARM = 6
/** A turn of more than this (degrees) over the two arms is a corner. */
const CORNER = 50
/** So near to a corner (px) the traced points cut it; the corner itself lies where the two sides meet. */
const CUT = 1.5
/** The meeting point of two sides may lie so far (px) from the outline. */
const FARTHEST_CORNER = 2

/** The whole matte as a path. Contours that enclose less than `leastArea` px² are left out. */
export function matteSubpaths(
  matte: Matte,
  tolerance: number,
  leastArea = 1,
  check: (progress: number) => void = () => {},
): Subpath[] {
  const contours = traceMatte(matte, (share) => check(share / 2)).filter(
    (contour) => Math.abs(areaOf(contour)) >= leastArea,
  )
  return contours.map((contour, i) => {
    check(0.5 + i / contours.length / 2)
    return fitOutline(contour, tolerance)
  })
}

/** A closed subpath that leaves the outline's points by about `tolerance` px at most. */
export function fitOutline(contour: Contour, tolerance: number): Subpath {
  const outline = new Outline(contour)
  const corners = cornersOf(outline)
  if (!corners.length) {
    // No corner: begun anywhere, with one direction for both ends.
    const points = outline.between(0, outline.count)
    const along = outline.direction(0, 3)
    return closed(fitPiece(points, along, along && [-along[0], -along[1]], tolerance))
  }
  const nodes: PathNode[] = []
  corners.forEach(({ index, at }, k) => {
    const next = corners[(k + 1) % corners.length]
    const inner = outline
      .between(index, next.index > index ? next.index : next.index + outline.count)
      .filter(
        (p) => Math.hypot(p[0] - at[0], p[1] - at[1]) > CUT && Math.hypot(p[0] - next.at[0], p[1] - next.at[1]) > CUT,
      )
    const piece = fitPiece([at, ...inner, next.at], null, null, tolerance)
    join(nodes, piece)
  })
  return closed(nodes)
}

/** Appends a piece whose first node is the last one's continuation. */
function join(nodes: PathNode[], piece: readonly PathNode[]): void {
  const last = nodes.pop()
  nodes.push(last ? { ...last, out: piece[0].out } : piece[0], ...piece.slice(1))
}

/** The last node of a ring is its first. */
function closed(nodes: readonly PathNode[]): Subpath {
  const last = nodes[nodes.length - 1]
  const ring = [{ ...nodes[0], into: last.into }, ...nodes.slice(1, -1)]
  return {
    closed: true,
    nodes: ring.map(({ at, into, out }) => ({ at, ...(into ? { into } : {}), ...(out ? { out } : {}) })),
  }
}

/** A ring of points with lengths along it. */
class Outline {
  readonly count: number
  private readonly along: Float64Array
  constructor(private readonly points: Contour) {
    this.count = points.length / 2
    this.along = new Float64Array(this.count + 1)
    for (let i = 1; i <= this.count; i++) {
      const a = this.at(i - 1),
        b = this.at(i)
      this.along[i] = this.along[i - 1] + Math.hypot(b[0] - a[0], b[1] - a[1])
    }
  }
  at(i: number): Point {
    const k = ((i % this.count) + this.count) % this.count
    return [this.points[2 * k], this.points[2 * k + 1]]
  }
  get length(): number {
    return this.along[this.count]
  }
  /** The index `distance` px further (or back); never round more than half the ring. */
  step(i: number, distance: number): number {
    const sign = distance < 0 ? -1 : 1,
      most = this.count >> 1
    let gone = 0,
      n = 0
    while (n < most && gone < Math.abs(distance)) {
      const a = this.at(i + sign * n),
        b = this.at(i + sign * (n + 1))
      gone += Math.hypot(b[0] - a[0], b[1] - a[1])
      n++
    }
    return i + sign * n
  }
  /** Points from one index to another, both included. */
  between(from: number, to: number): Point[] {
    const out: Point[] = []
    for (let i = from; i <= to; i++) out.push(this.at(i))
    return out
  }
  /** The direction at a point, over `reach` px on either side. */
  direction(i: number, reach: number): Point | null {
    return unit(this.at(this.step(i, -reach)), this.at(this.step(i, reach)))
  }
}

/** Where the outline turns sharply, each as the point where its two sides meet. */
function cornersOf(outline: Outline): { index: number; at: Point }[] {
  const { count } = outline
  if (count < 4) return Array.from({ length: count }, (_, index) => ({ index, at: outline.at(index) }))
  const arm = Math.min(ARM, outline.length / 6)
  const turns = new Float64Array(count)
  let back = outline.step(0, -arm),
    forth = outline.step(0, arm)
  for (let i = 0; i < count; i++) {
    while (back < i - 1 && Math.hypot(...minus(outline.at(back + 1), outline.at(i))) >= arm) back++
    while (forth < i + 1 || (forth < i + count / 2 && Math.hypot(...minus(outline.at(forth), outline.at(i))) < arm))
      forth++
    const into = unit(outline.at(back), outline.at(i)),
      out = unit(outline.at(i), outline.at(forth))
    turns[i] = into && out ? Math.acos(Math.max(-1, Math.min(1, into[0] * out[0] + into[1] * out[1]))) : 0
  }
  const least = (CORNER * Math.PI) / 180
  const found: { index: number; at: Point }[] = []
  for (let i = 0; i < count; i++) {
    if (turns[i] < least) continue
    let greatest = true
    for (const sign of [-1, 1])
      for (let n = 1; n < count && greatest; n++) {
        const k = (i + sign * n + count) % count,
          [x, y] = minus(outline.at(k), outline.at(i))
        if (Math.hypot(x, y) > arm) break
        if (turns[k] > turns[i] || (turns[k] === turns[i] && sign < 0)) greatest = false
      }
    if (greatest) found.push({ index: i, at: meeting(outline, i, arm) })
  }
  return found
}

/** Where the lines through the two sides of a corner meet; the point itself where they do not meet near it. */
function meeting(outline: Outline, i: number, arm: number): Point {
  const here = outline.at(i)
  const before = sideOf(outline.between(outline.step(i, -arm), outline.step(i, -CUT))),
    after = sideOf(outline.between(outline.step(i, CUT), outline.step(i, arm)))
  if (!before || !after) return here
  const cross = before.way[0] * after.way[1] - before.way[1] * after.way[0]
  if (Math.abs(cross) < 0.2) return here
  const [dx, dy] = minus(after.middle, before.middle),
    t = (dx * after.way[1] - dy * after.way[0]) / cross
  const at: Point = [before.middle[0] + t * before.way[0], before.middle[1] + t * before.way[1]]
  return Math.hypot(...minus(at, here)) <= FARTHEST_CORNER ? at : here
}

/** The line through points by total least squares: their middle and the main direction of their spread. */
function sideOf(points: readonly Point[]): { middle: Point; way: Point } | null {
  if (points.length < 2) return null
  let mx = 0,
    my = 0
  for (const [x, y] of points) {
    mx += x / points.length
    my += y / points.length
  }
  let xx = 0,
    xy = 0,
    yy = 0
  for (const [x, y] of points) {
    xx += (x - mx) ** 2
    xy += (x - mx) * (y - my)
    yy += (y - my) ** 2
  }
  if (xx + yy === 0) return null
  const angle = Math.atan2(2 * xy, xx - yy) / 2
  return { middle: [mx, my], way: [Math.cos(angle), Math.sin(angle)] }
}

/** Nodes of curves through the points: from the first to the last, with these directions at the ends where they are given. */
function fitPiece(points: readonly Point[], start: Point | null, end: Point | null, tolerance: number): PathNode[] {
  const last = points.length - 1
  const straight = farthestFromChord(points, 0, last)
  if (!start && straight <= Math.max(0.25, tolerance / 2)) return [{ at: points[0] }, { at: points[last] }]
  const reach = Math.max(2, 2 * tolerance)
  return fitRange(
    points,
    0,
    last,
    start ?? endDirection(points, 0, 1, reach),
    end ?? endDirection(points, last, -1, reach),
    tolerance,
  )
}

function farthestFromChord(points: readonly Point[], from: number, to: number): number {
  const way = unit(points[from], points[to])
  let most = 0
  for (let i = from + 1; i < to; i++) {
    const [x, y] = minus(points[i], points[from])
    most = Math.max(most, way ? Math.abs(x * way[1] - y * way[0]) : Math.hypot(x, y))
  }
  return most
}
