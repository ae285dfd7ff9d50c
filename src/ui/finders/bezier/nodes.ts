/** Editing a path by its points and handles. Pure: each gives new subpaths. */
import { type PathNode, pointOn, splitAt, type Subpath } from '@/core/vector/path'

type Point = readonly [number, number]
export type Subpaths = readonly Subpath[]
export type Handle = 'into' | 'out'

/** Handles this near to one line (sine of the angle) belong together. */
const COLLINEAR = 0.05
/** Places looked at on each curve for the nearest one. */
const SAMPLES = 24

const changed = (subpaths: Subpaths, s: number, change: (subpath: Subpath) => Subpath | null): Subpaths =>
  subpaths.flatMap((subpath, k) => {
    const next = k === s ? change(subpath) : subpath
    return next ? [next] : []
  })
const withNode = (subpaths: Subpaths, s: number, i: number, node: PathNode): Subpaths =>
  changed(subpaths, s, (subpath) => ({ ...subpath, nodes: subpath.nodes.with(i, node) }))
const beyond = (at: Point, handle: Point, length: number): Point => {
  const far = Math.hypot(handle[0] - at[0], handle[1] - at[1]) || 1
  return [at[0] - ((handle[0] - at[0]) / far) * length, at[1] - ((handle[1] - at[1]) / far) * length]
}
export const mirrored = (at: Point, handle: Point): Point => [2 * at[0] - handle[0], 2 * at[1] - handle[1]]

/** The open subpath being drawn: the last one. */
export const openEnd = (subpaths: Subpaths): Subpath | undefined => {
  const last = subpaths.at(-1)
  return last && !last.closed ? last : undefined
}

/** A further point at the open end; where there is none a new subpath begins. */
export const appended = (subpaths: Subpaths, node: PathNode): Subpaths =>
  openEnd(subpaths)
    ? changed(subpaths, subpaths.length - 1, (subpath) => ({ ...subpath, nodes: [...subpath.nodes, node] }))
    : [...subpaths, { nodes: [node], closed: false }]
/** The open end joined with its start; a drag there shapes the curve that comes in. */
export const closedAt = (subpaths: Subpaths, into?: Point): Subpaths =>
  changed(subpaths, subpaths.length - 1, (subpath) => ({
    closed: true,
    nodes: into ? subpath.nodes.with(0, { ...subpath.nodes[0], into }) : subpath.nodes,
  }))
export const switchedClosed = (subpaths: Subpaths, s: number): Subpaths =>
  changed(subpaths, s, (subpath) => ({ ...subpath, closed: !subpath.closed }))
export const withoutLast = (subpaths: Subpaths): Subpaths =>
  changed(subpaths, subpaths.length - 1, (subpath) =>
    subpath.nodes.length > 1 ? { ...subpath, nodes: subpath.nodes.slice(0, -1) } : null,
  )
export const withoutNode = (subpaths: Subpaths, s: number, i: number): Subpaths =>
  changed(subpaths, s, (subpath) =>
    subpath.nodes.length > 1 ? { ...subpath, nodes: subpath.nodes.toSpliced(i, 1) } : null,
  )

/** A point moves with its handles. */
export function movedNode(subpaths: Subpaths, s: number, i: number, to: Point): Subpaths {
  const node = subpaths[s].nodes[i],
    dx = to[0] - node.at[0],
    dy = to[1] - node.at[1]
  const along = (p: Point | undefined): Point | undefined => p && [p[0] + dx, p[1] + dy]
  return withNode(subpaths, s, i, { at: to, into: along(node.into), out: along(node.out) })
}
export const movedAll = (subpaths: Subpaths, dx: number, dy: number): Subpaths =>
  subpaths.map((subpath) => ({
    ...subpath,
    nodes: subpath.nodes.map(({ at, into, out }) => ({
      at: [at[0] + dx, at[1] + dy] as Point,
      into: into && ([into[0] + dx, into[1] + dy] as Point),
      out: out && ([out[0] + dx, out[1] + dy] as Point),
    })),
  }))

/** True when both handles lie on one line through the point, on its two sides. */
export function isSmooth({ at, into, out }: PathNode): boolean {
  if (!into || !out) return false
  const a = [into[0] - at[0], into[1] - at[1]],
    b = [out[0] - at[0], out[1] - at[1]],
    lengths = Math.hypot(a[0], a[1]) * Math.hypot(b[0], b[1])
  return lengths > 0 && a[0] * b[0] + a[1] * b[1] < 0 && Math.abs(a[0] * b[1] - a[1] * b[0]) <= COLLINEAR * lengths
}

/** A handle moves; the other one of a smooth point turns with it, unless it is moved alone. */
export function movedHandle(
  subpaths: Subpaths,
  s: number,
  i: number,
  which: Handle,
  to: Point,
  alone: boolean,
): Subpaths {
  const node = subpaths[s].nodes[i],
    other = which === 'out' ? 'into' : 'out',
    opposite = node[other]
  const turned =
    !alone && opposite && isSmooth(node)
      ? beyond(node.at, to, Math.hypot(opposite[0] - node.at[0], opposite[1] - node.at[1]))
      : opposite
  return withNode(subpaths, s, i, { at: node.at, [which]: to, [other]: turned })
}

/** A corner becomes smooth, with handles along its neighbours' direction and a third of the way to them; a point with handles becomes a corner. */
export function converted(subpaths: Subpaths, s: number, i: number): Subpaths {
  const { nodes, closed } = subpaths[s],
    node = nodes[i]
  if (node.into || node.out) return withNode(subpaths, s, i, { at: node.at })
  const before = nodes[i - 1] ?? (closed ? nodes.at(-1) : undefined),
    after = nodes[i + 1] ?? (closed ? nodes[0] : undefined)
  const from = before?.at ?? node.at,
    to = after?.at ?? node.at,
    span = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1
  const way = [(to[0] - from[0]) / span, (to[1] - from[1]) / span]
  const reach = (other: Point | undefined) => (other ? Math.hypot(other[0] - node.at[0], other[1] - node.at[1]) / 3 : 0)
  const back = reach(before?.at),
    forth = reach(after?.at)
  return withNode(subpaths, s, i, {
    at: node.at,
    into: before && [node.at[0] - way[0] * back, node.at[1] - way[1] * back],
    out: after && [node.at[0] + way[0] * forth, node.at[1] + way[1] * forth],
  })
}

/** The place on the path nearest to a point: on the curve after node `index`, at t. */
export function nearestPlace(
  subpaths: Subpaths,
  [x, y]: Point,
): { subpath: number; index: number; t: number; distance: number } | null {
  let best: { subpath: number; index: number; t: number; distance: number } | null = null
  subpaths.forEach(({ nodes, closed }, subpath) => {
    for (let index = 0; index < nodes.length - (closed ? 0 : 1); index++) {
      const from = nodes[index],
        to = nodes[(index + 1) % nodes.length]
      for (let k = 1; k < SAMPLES; k++) {
        const [px, py] = pointOn(from, to, k / SAMPLES),
          distance = Math.hypot(px - x, py - y)
        if (!best || distance < best.distance) best = { subpath, index, t: k / SAMPLES, distance }
      }
    }
  })
  return best
}

/** A new point on a curve; the curve stays as it is. */
export function inserted(subpaths: Subpaths, s: number, i: number, t: number): Subpaths {
  return changed(subpaths, s, ({ nodes, closed }) => {
    const next = (i + 1) % nodes.length,
      [from, middle, to] = splitAt(nodes[i], nodes[next], t)
    return {
      closed,
      nodes: nodes
        .with(i, from)
        .with(next, to)
        .toSpliced(i + 1, 0, middle),
    }
  })
}
