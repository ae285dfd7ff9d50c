/** A box that can be turned: x, y, width, height before turning; degrees clockwise about its centre. */
import { apply, rotation as turn } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type Proportions } from '@/ui/store/rooms/tool'

export interface Box {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly rotation: number
}
type Point = readonly [number, number]

const FREE: Proportions = { mode: 'free', width: 1, height: 1 }

/** Where a box is held: its corners and the middles of its sides, as shares of its width and height. */
export const BOX_PLACES: readonly (readonly [u: number, v: number, name: string])[] = [
  [0, 0, 'upper left'],
  [0.5, 0, 'upper'],
  [1, 0, 'upper right'],
  [1, 0.5, 'right'],
  [1, 1, 'lower right'],
  [0.5, 1, 'lower'],
  [0, 1, 'lower left'],
  [0, 0.5, 'left'],
]

/** How a pointer looks that pulls a box's corner or side away from its middle, both px of the screen: as the box lies there, turned or mirrored. */
export function pullCursor(middle: Point, place: Point): string {
  const eighth = Math.round((4 * Math.atan2(place[1] - middle[1], place[0] - middle[0])) / Math.PI)
  return ['ew-resize', 'nwse-resize', 'ns-resize', 'nesw-resize'][(eighth + 8) % 4]
}

/** The upright box between two points; equal sides and from the centre as asked, keeping the proportions set. */
export function boxBetween(
  from: Point,
  to: Point,
  equal: boolean,
  centred: boolean,
  keep: Proportions = FREE,
): Omit<Box, 'rotation'> {
  const across = to[0] < from[0] ? -1 : 1,
    down = to[1] < from[1] ? -1 : 1,
    reach = centred ? 0.5 : 1
  let dx = to[0] - from[0],
    dy = to[1] - from[1]
  if (equal) {
    const side = Math.max(Math.abs(dx), Math.abs(dy))
    dx = side * across
    dy = side * down
  } else if (keep.mode === 'ratio') {
    const scale = Math.max(Math.abs(dx) / keep.width, Math.abs(dy) / keep.height)
    dx = scale * keep.width * across
    dy = scale * keep.height * down
  } else {
    if (keep.mode === 'width' || keep.mode === 'size') dx = keep.width * reach * across
    if (keep.mode === 'height' || keep.mode === 'size') dy = keep.height * reach * down
  }
  if (centred)
    return { x: from[0] - Math.abs(dx), y: from[1] - Math.abs(dy), width: 2 * Math.abs(dx), height: 2 * Math.abs(dy) }
  return {
    x: Math.min(from[0], from[0] + dx),
    y: Math.min(from[1], from[1] + dy),
    width: Math.abs(dx),
    height: Math.abs(dy),
  }
}

/** A place on the turned box: (0, 0) is its first corner, (1, 1) the opposite one. */
export function placeOn(box: Box, u: number, v: number): [number, number] {
  return apply(
    turn(box.rotation, box.x + box.width / 2, box.y + box.height / 2),
    box.x + u * box.width,
    box.y + v * box.height,
  )
}

/** True when the point lies inside the turned box. */
export function insideBox(box: Box, point: Point): boolean {
  const [x, y] = apply(turn(-box.rotation, box.x + box.width / 2, box.y + box.height / 2), point[0], point[1])
  return x >= box.x && y >= box.y && x <= box.x + box.width && y <= box.y + box.height
}

/** Moves the side or corner (u, v of 0, ½ or 1) to a point; the opposite one stays. Equal keeps the proportions of corners; centred keeps the centre; `keep` is what boxes keep anyway. */
export function stretched(
  box: Box,
  u: number,
  v: number,
  to: Point,
  equal: boolean,
  centred: boolean,
  keep: Proportions = FREE,
): Omit<Box, 'rotation'> {
  const fixed = centred ? placeOn(box, 0.5, 0.5) : placeOn(box, 1 - u, 1 - v)
  const [lx, ly] = apply(turn(-box.rotation), to[0] - fixed[0], to[1] - fixed[1])
  const reach = centred ? 2 : 1
  let width = u === 0.5 ? box.width : Math.max(1, (u === 1 ? lx : -lx) * reach)
  let height = v === 0.5 ? box.height : Math.max(1, (v === 1 ? ly : -ly) * reach)
  if (equal && u !== 0.5 && v !== 0.5 && box.width > 0 && box.height > 0) {
    const scale = Math.max(width / box.width, height / box.height)
    width = box.width * scale
    height = box.height * scale
  } else if (keep.mode === 'ratio') {
    const ratio = keep.width / keep.height
    if (u === 0.5 || (v !== 0.5 && height * ratio > width)) width = height * ratio
    else height = width / ratio
  } else {
    if (keep.mode === 'width' || keep.mode === 'size') width = box.width
    if (keep.mode === 'height' || keep.mode === 'size') height = box.height
  }
  const toCentre: Point = centred ? [0, 0] : [u === 0.5 ? 0 : (u - 0.5) * width, v === 0.5 ? 0 : (v - 0.5) * height]
  const [cx, cy] = apply(turn(box.rotation), toCentre[0], toCentre[1])
  return { x: fixed[0] + cx - width / 2, y: fixed[1] + cy - height / 2, width, height }
}

/** The places of a box that cling to things: its sides and its middle, turned or not. */
export function placesOf(box: Box): [xs: number[], ys: number[]] {
  const corners = [placeOn(box, 0, 0), placeOn(box, 1, 0), placeOn(box, 1, 1), placeOn(box, 0, 1)]
  const xs = corners.map(([x]) => x),
    ys = corners.map(([, y]) => y)
  return [
    [Math.min(...xs), box.x + box.width / 2, Math.max(...xs)],
    [Math.min(...ys), box.y + box.height / 2, Math.max(...ys)],
  ]
}

/** On whole pixels, as drawn boxes are; turned ones keep their fractions, since their sides lie on no pixel edge anyway. */
export function onPixels<B extends Omit<Box, 'rotation'>>(box: B, rotation: number): B {
  if (rotation % 90 !== 0) return box
  const x = Math.round(box.x),
    y = Math.round(box.y)
  return { ...box, x, y, width: Math.round(box.x + box.width) - x, height: Math.round(box.y + box.height) - y }
}

/** Half as wide and high as the canvas, in its middle. */
export const boxInMiddle = ({ width, height }: Size) => ({
  x: Math.round(width / 4),
  y: Math.round(height / 4),
  width: Math.round(width / 2),
  height: Math.round(height / 2),
})

export const boxSummary = ({ width, height, rotation: degrees }: Box): string =>
  `${Math.round(width)} × ${Math.round(height)} px${degrees ? ` · ${Math.round(degrees)}°` : ''}`
