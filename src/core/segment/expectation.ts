/**
 * What the network expects, on the small level of a view: how much each pixel speaks for what the hints mean, nats. The whole is looked at first, then
 * the part where something was found is looked at more closely (Sofiiuk, Petrov, Barinova and Konushin, "f-BRS", CVPR 2020: zooming in).
 */
import { atEachPixel, type Hints, likelihood, likely, SEEN } from '../network/likelihood'
import { type Box } from '../raster/content'
import { mapInto } from '../raster/mapInto'
import { type Picture, type Size } from '../raster/picture'
import { INSIDE, OUTSIDE, UNDECIDED } from './gridCut'
import { piecesOf } from './pieces'
import { wholeOf, type SegmentView } from './view'

/** Nothing is expected more surely than this, nats. */
export const SUREST = 4
/** How far around what was found the closer look goes, as a share of its sides; it is taken when it covers less than this share of the first. */
const AROUND = 0.35,
  CLOSER = 0.6
/** What lies outside a closer look is as unlikely as this, nats. */
const BEYOND = -3

/** How much of what is expected counts beside a pixel's colour. */
export const EXPECTED = 0.5
/** Where it is expected so surely, and the cut agrees, colours alone change nothing more, nats. */
const SURE = 2.5

/** What separating alike neighbours costs where the network tells where the thing is, nats. */
export const CALM = 12

/** How far a cut is as it was expected to be, where it was open: soft intersection over union, 0-1. */
export function agreement(state: Uint8Array, odds: Float32Array, given: Uint8Array): number {
  let both = 0,
    either = 0
  for (let i = 0; i < state.length; i++) {
    if (given[i] !== UNDECIDED) continue
    const inside = state[i] === INSIDE ? 1 : 0,
      probable = likely(odds[i])
    both += Math.min(inside, probable)
    either += Math.max(inside, probable)
  }
  return either ? both / either : 0
}

/** Takes from a cut, in place, the pieces beside its largest that are on the whole not expected: what looks like the thing somewhere else. */
export function dropUnexpected(state: Uint8Array, odds: Float32Array, size: Size): void {
  const { pieceOf, areas } = piecesOf(state, size, INSIDE),
    largest = areas.indexOf(Math.max(...areas)),
    expected = new Float64Array(areas.length)
  for (let i = 0; i < state.length; i++) if (pieceOf[i] >= 0) expected[pieceOf[i]] += odds[i]
  for (let i = 0; i < state.length; i++) {
    const piece = pieceOf[i]
    if (piece >= 0 && piece !== largest && expected[piece] < 0) state[i] = OUTSIDE
  }
}

/** 1 where a cut of the small level is as it is surely expected to be. */
export const sureOf = (expected: Float32Array, state: Uint8Array): Uint8Array =>
  mapInto(new Uint8Array(state.length), state, (side, i) =>
    (side === INSIDE ? expected[i] > SURE : expected[i] < -SURE) ? 1 : 0,
  )

/** @param hints in px of the picture @param close look again, more closely */
export function expectation(view: SegmentView, hints: Hints, close: boolean): Float32Array {
  const small = view.levels.at(-1)!,
    first = likelihood(small, wholeOf(small), onLevel(hints, view, view.levels.length - 1)),
    expected = atEachPixel(first, small, BEYOND)
  const part = close ? foundPart(expected, small, onLevel(hints, view, view.levels.length - 1)) : null
  if (part && part.width * part.height < CLOSER * small.width * small.height) {
    const level = levelFor(view, part),
      scale = 2 ** (view.levels.length - 1 - level),
      picture = view.levels[level]
    const fine = {
      x: part.x * scale,
      y: part.y * scale,
      width: Math.min(picture.width - part.x * scale, part.width * scale),
      height: Math.min(picture.height - part.y * scale, part.height * scale),
    }
    const second = atEachPixel({ ...likelihood(picture, fine, onLevel(hints, view, level)), part }, small, BEYOND)
    for (let i = 0; i < expected.length; i++) expected[i] = (expected[i] + second[i]) / 2
  }
  for (let i = 0; i < expected.length; i++) expected[i] = Math.max(-SUREST, Math.min(SUREST, expected[i]))
  return expected
}

function onLevel({ box, keep, drop, anchors }: Hints, { frame }: SegmentView, level: number): Hints {
  const scale = 1 / 2 ** level,
    x = (v: number) => (v - frame.x) * scale,
    y = (v: number) => (v - frame.y) * scale,
    places = (marks: Hints['keep']) => marks?.map(([u, v]) => [x(u), y(v)] as const)
  return {
    ...(box ? { box: [x(box[0]), y(box[1]), x(box[2]), y(box[3])] as const } : {}),
    keep: places(keep),
    drop: places(drop),
    anchors: places(anchors),
  }
}

/** The part that holds everything likely and every keep mark, with some of what lies around; null where there is nothing. */
function foundPart(expected: Float32Array, { width, height }: Picture, { keep = [] }: Hints): Box | null {
  let left = Infinity,
    right = -1,
    top = Infinity,
    bottom = -1
  const add = (x: number, y: number) => {
    if (x < left) left = x
    if (x > right) right = x
    if (y < top) top = y
    if (y > bottom) bottom = y
  }
  for (let i = 0; i < expected.length; i++) if (expected[i] > 0) add(i % width, Math.floor(i / width))
  for (const [x, y] of keep) if (x >= 0 && y >= 0 && x < width && y < height) add(Math.floor(x), Math.floor(y))
  if (right < 0) return null
  const dx = Math.ceil(AROUND * (right + 1 - left)) + 4,
    dy = Math.ceil(AROUND * (bottom + 1 - top)) + 4,
    x = Math.max(0, left - dx),
    y = Math.max(0, top - dy)
  return { x, y, width: Math.min(width, right + 1 + dx) - x, height: Math.min(height, bottom + 1 + dy) - y }
}

/** The coarsest level on which the part has as many pixels as are seen, where the picture has them. */
function levelFor({ levels }: SegmentView, part: Box): number {
  let level = levels.length - 1
  for (let count = part.width * part.height; level > 0 && count < SEEN; count *= 4) level--
  return level
}

/** How long a stroke is, px. */
export const lengthOf = (points: readonly (readonly number[])[]): number =>
  points.reduce((sum, [x, y], k) => sum + (k ? Math.hypot(x - points[k - 1][0], y - points[k - 1][1]) : 0), 0)

/** Where a stroke lies, as places so far apart, px. */
export function placesAlong(points: readonly (readonly number[])[], apart: number): [number, number][] {
  const places: [number, number][] = []
  points.forEach(([x, y], k) => {
    const [px, py] = k ? points[k - 1] : [x, y],
      count = Math.max(1, Math.ceil(Math.hypot(x - px, y - py) / Math.max(1e-6, apart)))
    for (let n = k ? 1 : count; n <= count; n++) places.push([px + ((x - px) * n) / count, py + ((y - py) * n) / count])
  })
  return places
}
