/**
 * SVG path data to nodes with handles, as people edit them, and back; and to outlines. Source: SVG 2, chapter 9 "Paths": the grammar of 9.3.9, and appendix B.2.4 for arcs given by their end points.
 */
import { type Point } from './fill'
import { PathError, read } from './readPath'

/** A point of a path with the handles of the curves that come in and go out; a missing handle lies on the point. All px. */
export interface PathNode {
  readonly at: Point
  readonly into?: Point
  readonly out?: Point
}
export interface Subpath {
  readonly nodes: readonly PathNode[]
  readonly closed: boolean
}

/** How far a piece of the flattened outline may lie from the true curve, px. */
const TOLERANCE = 0.02
/** More points than this in all make no outline anyone drew. */
const MOST_POINTS = 2_000_000
/** Arcs become curves of at most an eighth of a turn, which leave a circle by less than 5e-6 of its radius. */
const ARC_PIECE = Math.PI / 4

/** The subpaths as nodes: quadratic curves and arcs become cubic ones. Throws PathError. */
export function subpathsOf(d: string): Subpath[] {
  const subpaths: { nodes: { at: Point; into?: Point; out?: Point }[]; closed: boolean }[] = []
  let nodes: { at: Point; into?: Point; out?: Point }[] = []
  let x = 0,
    y = 0,
    startX = 0,
    startY = 0
  let handle: Point | null = null,
    previous = ''
  const begin = () => {
    nodes = [{ at: [x, y] }]
    subpaths.push({ nodes, closed: false })
  }
  const line = (nx: number, ny: number) => {
    if (previous === 'Z') begin()
    nodes.push({ at: [nx, ny] })
    x = nx
    y = ny
  }
  const cubic = (first: Point, second: Point, end: Point) => {
    if (previous === 'Z') begin()
    nodes[nodes.length - 1].out = first
    nodes.push({ at: end, into: second })
    ;[x, y] = end
  }
  for (const { letter, values: v } of read(d)) {
    const upper = letter.toUpperCase(),
      relative = letter !== upper
    const at = (i: number): Point => [v[i] + (relative ? x : 0), v[i + 1] + (relative ? y : 0)]
    const mirrored = (kinds: string): Point =>
      handle && kinds.includes(previous) ? [2 * x - handle[0], 2 * y - handle[1]] : [x, y]
    let next: Point | null = null
    if (upper === 'M') {
      ;[x, y] = at(0)
      startX = x
      startY = y
      begin()
    } else if (upper === 'Z') {
      if (previous !== 'Z') close(subpaths[subpaths.length - 1])
      x = startX
      y = startY
    } else if (upper === 'L') line(...at(0))
    else if (upper === 'H') line(v[0] + (relative ? x : 0), y)
    else if (upper === 'V') line(x, v[0] + (relative ? y : 0))
    else if (upper === 'C') {
      next = at(2)
      cubic(at(0), next, at(4))
    } else if (upper === 'S') {
      const first = mirrored('CS')
      next = at(0)
      cubic(first, next, at(2))
    } else if (upper === 'Q' || upper === 'T') {
      const end = at(upper === 'Q' ? 2 : 0)
      next = upper === 'Q' ? at(0) : mirrored('QT')
      cubic(between([x, y], next, 2 / 3), between(end, next, 2 / 3), end)
    } else
      for (const [first, second, end] of arcCurves([x, y], v[0], v[1], v[2], v[3] === 1, v[4] === 1, at(5))) {
        if (first) cubic(first, second, end)
        else line(...end)
        previous = upper
      }
    handle = next
    previous = upper
  }
  return subpaths
}

/** A closed subpath whose last point lies on its first keeps one of the two. */
function close(subpath: { nodes: { at: Point; into?: Point; out?: Point }[]; closed: boolean }): void {
  subpath.closed = true
  const first = subpath.nodes[0],
    last = subpath.nodes[subpath.nodes.length - 1]
  if (subpath.nodes.length > 1 && first.at[0] === last.at[0] && first.at[1] === last.at[1]) {
    subpath.nodes.pop()
    if (last.into) first.into = last.into
  }
}

const between = (a: Point, b: Point, t: number): Point => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
const hundredth = (v: number): number => Math.round(v * 100) / 100 + 0
/** A point as path data says it, px. */
export const pointWritten = ([x, y]: Point): Point => [hundredth(x), hundredth(y)]
const pair = (point: Point): string => pointWritten(point).join(' ')

/** Path data (M, L, C, Z) of subpaths, to a hundredth of a pixel. */
export function pathData(subpaths: readonly Subpath[]): string {
  return subpaths
    .filter(({ nodes }) => nodes.length)
    .map(({ nodes, closed }) => {
      const piece = (from: PathNode, to: PathNode) =>
        from.out || to.into
          ? `C${pair(from.out ?? from.at)} ${pair(to.into ?? to.at)} ${pair(to.at)}`
          : `L${pair(to.at)}`
      const pieces = nodes.slice(1).map((node, i) => piece(nodes[i], node))
      const last = nodes[nodes.length - 1],
        back = closed && nodes.length > 1 && (last.out || nodes[0].into) ? [piece(last, nodes[0])] : []
      return [`M${pair(nodes[0].at)}`, ...pieces, ...back, ...(closed ? ['Z'] : [])].join(' ')
    })
    .join(' ')
}

/** Flattened outlines, one for each subpath, px. Throws PathError. */
export const pathOutlines = (d: string): Point[][] => flattened(subpathsOf(d))

/** Outlines that nowhere leave the curves by more than 1/50 px. Throws PathError. */
export function flattened(subpaths: readonly Subpath[]): Point[][] {
  let total = 0
  return subpaths
    .filter(({ nodes }) => nodes.length > 1)
    .map(({ nodes, closed }) => {
      const outline: Point[] = [nodes[0].at]
      for (let i = 1; i < nodes.length + (closed ? 1 : 0); i++) {
        const from = nodes[i - 1],
          to = nodes[i % nodes.length]
        if (i === nodes.length && !from.out && !to.into) break // the last point joins the first anyway
        total += addPiece(outline, from, to)
        if (total > MOST_POINTS) throw new PathError(`it has more than ${MOST_POINTS.toLocaleString('en')} points`)
      }
      return outline
    })
}

/** Pieces so that none leaves a cubic curve by more than the tolerance (Wang's bound from the second differences). */
const pieces = (secondDifference: number): number =>
  Math.min(MOST_POINTS, Math.max(1, Math.ceil(Math.sqrt((6 * secondDifference) / (8 * TOLERANCE)))))
const bend = ([ax, ay]: Point, [bx, by]: Point, [cx, cy]: Point): number =>
  Math.hypot(ax - 2 * bx + cx, ay - 2 * by + cy)

function addPiece(out: Point[], from: PathNode, to: PathNode): number {
  const a = from.at,
    b = from.out ?? a,
    d = to.at,
    c = to.into ?? d
  const count = from.out || to.into ? pieces(Math.max(bend(a, b, c), bend(b, c, d))) : 1
  if (count >= MOST_POINTS) return count
  for (let i = 1; i <= count; i++) out.push(pointOn(from, to, i / count))
  return count
}

/** The point at t (0-1) of the curve between two nodes. */
export function pointOn(from: PathNode, to: PathNode, t: number): Point {
  const a = from.at,
    b = from.out ?? a,
    d = to.at,
    c = to.into ?? d,
    u = 1 - t
  if (!from.out && !to.into) return between(a, d, t)
  return [
    u * u * u * a[0] + 3 * u * u * t * b[0] + 3 * u * t * t * c[0] + t * t * t * d[0],
    u * u * u * a[1] + 3 * u * u * t * b[1] + 3 * u * t * t * c[1] + t * t * t * d[1],
  ]
}

/** The curve between two nodes as two, with a node at t (de Casteljau): [from, middle, to]. */
export function splitAt(from: PathNode, to: PathNode, t: number): [PathNode, PathNode, PathNode] {
  if (!from.out && !to.into) return [from, { at: between(from.at, to.at, t) }, to]
  const a = from.at,
    b = from.out ?? a,
    d = to.at,
    c = to.into ?? d
  const ab = between(a, b, t),
    bc = between(b, c, t),
    cd = between(c, d, t),
    abc = between(ab, bc, t),
    bcd = between(bc, cd, t)
  return [
    { ...from, out: ab },
    { at: between(abc, bcd, t), into: abc, out: bcd },
    { ...to, into: cd },
  ]
}

/** An elliptical arc as cubic curves; without the first handle it is a line. SVG 2, B.2.4: from end points to centre; B.2.5: a radius of zero is a line, radii too small are scaled up. */
function arcCurves(
  [x1, y1]: Point,
  rx: number,
  ry: number,
  degrees: number,
  large: boolean,
  sweep: boolean,
  [x2, y2]: Point,
): [Point | null, Point, Point][] {
  rx = Math.abs(rx)
  ry = Math.abs(ry)
  if (rx === 0 || ry === 0 || (x1 === x2 && y1 === y2)) return [[null, [x2, y2], [x2, y2]]]
  const phi = (degrees * Math.PI) / 180,
    cos = Math.cos(phi),
    sin = Math.sin(phi)
  const hx = (x1 - x2) / 2,
    hy = (y1 - y2) / 2
  const px = cos * hx + sin * hy,
    py = -sin * hx + cos * hy
  const lambda = (px / rx) ** 2 + (py / ry) ** 2
  if (lambda > 1) {
    rx *= Math.sqrt(lambda)
    ry *= Math.sqrt(lambda)
  }
  const k =
    (large === sweep ? -1 : 1) *
    Math.sqrt(
      Math.max(
        0,
        (rx * rx * ry * ry - rx * rx * py * py - ry * ry * px * px) / (rx * rx * py * py + ry * ry * px * px),
      ),
    )
  const cxr = (k * rx * py) / ry,
    cyr = (-k * ry * px) / rx
  const cx = cos * cxr - sin * cyr + (x1 + x2) / 2,
    cy = sin * cxr + cos * cyr + (y1 + y2) / 2
  const start = Math.atan2((py - cyr) / ry, (px - cxr) / rx)
  let span = Math.atan2((-py - cyr) / ry, (-px - cxr) / rx) - start
  if (sweep && span < 0) span += 2 * Math.PI
  if (!sweep && span > 0) span -= 2 * Math.PI
  const count = Math.max(1, Math.ceil(Math.abs(span) / ARC_PIECE - 1e-9)),
    step = span / count,
    reach = (4 / 3) * Math.tan(step / 4)
  const place = (u: number, v: number): Point => [cos * rx * u - sin * ry * v + cx, sin * rx * u + cos * ry * v + cy]
  return Array.from({ length: count }, (_, i) => {
    const a = start + i * step,
      b = a + step
    const ca = Math.cos(a),
      sa = Math.sin(a),
      cb = Math.cos(b),
      sb = Math.sin(b)
    return [
      place(ca - reach * sa, sa + reach * ca),
      place(cb + reach * sb, sb - reach * cb),
      i === count - 1 ? [x2, y2] : place(cb, sb),
    ]
  })
}
