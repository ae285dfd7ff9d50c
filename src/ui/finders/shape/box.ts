/** A box that can be turned: x, y, width, height before turning; degrees clockwise about its centre. */
import { apply, rotation as turn } from '@/core/raster/affine'

export interface Box { readonly x: number; readonly y: number; readonly width: number; readonly height: number; readonly rotation: number }
type Point = readonly [number, number]

/** The upright box between two points; equal sides and from the centre as asked. */
export function boxBetween(from: Point, to: Point, equal: boolean, centred: boolean): Omit<Box, 'rotation'> {
  let dx = to[0] - from[0], dy = to[1] - from[1]
  if (equal) { const side = Math.max(Math.abs(dx), Math.abs(dy)); dx = side * (dx < 0 ? -1 : 1); dy = side * (dy < 0 ? -1 : 1) }
  if (centred) return { x: from[0] - Math.abs(dx), y: from[1] - Math.abs(dy), width: 2 * Math.abs(dx), height: 2 * Math.abs(dy) }
  return { x: Math.min(from[0], from[0] + dx), y: Math.min(from[1], from[1] + dy), width: Math.abs(dx), height: Math.abs(dy) }
}

/** A place on the turned box: (0, 0) is its first corner, (1, 1) the opposite one. */
export function placeOn(box: Box, u: number, v: number): [number, number] {
  return apply(turn(box.rotation, box.x + box.width / 2, box.y + box.height / 2), box.x + u * box.width, box.y + v * box.height)
}

/** True when the point lies inside the turned box. */
export function insideBox(box: Box, point: Point): boolean {
  const [x, y] = apply(turn(-box.rotation, box.x + box.width / 2, box.y + box.height / 2), point[0], point[1])
  return x >= box.x && y >= box.y && x <= box.x + box.width && y <= box.y + box.height
}

/** Moves the side or corner (u, v of 0, ½ or 1) to a point; the opposite one stays. Equal keeps the proportions of corners; centred keeps the centre. */
export function stretched(box: Box, u: number, v: number, to: Point, equal: boolean, centred: boolean): Omit<Box, 'rotation'> {
  const fixed = centred ? placeOn(box, 0.5, 0.5) : placeOn(box, 1 - u, 1 - v)
  const [lx, ly] = apply(turn(-box.rotation), to[0] - fixed[0], to[1] - fixed[1])
  const reach = centred ? 2 : 1
  let width = u === 0.5 ? box.width : Math.max(1, (u === 1 ? lx : -lx) * reach)
  let height = v === 0.5 ? box.height : Math.max(1, (v === 1 ? ly : -ly) * reach)
  if (equal && u !== 0.5 && v !== 0.5 && box.width > 0 && box.height > 0) { const scale = Math.max(width / box.width, height / box.height); width = box.width * scale; height = box.height * scale }
  const toCentre: Point = centred ? [0, 0] : [(u === 0.5 ? 0 : (u - 0.5) * width), (v === 0.5 ? 0 : (v - 0.5) * height)]
  const [cx, cy] = apply(turn(box.rotation), toCentre[0], toCentre[1])
  return { x: fixed[0] + cx - width / 2, y: fixed[1] + cy - height / 2, width, height }
}

/** On whole pixels, as drawn boxes are; turned ones keep their fractions, since their sides lie on no pixel edge anyway. */
export function onPixels<B extends Omit<Box, 'rotation'>>(box: B, rotation: number): B {
  if (rotation % 90 !== 0) return box
  const x = Math.round(box.x), y = Math.round(box.y)
  return { ...box, x, y, width: Math.round(box.x + box.width) - x, height: Math.round(box.y + box.height) - y }
}

export const boxSummary = ({ width, height, rotation: degrees }: Box): string => `${Math.round(width)} × ${Math.round(height)} px${degrees ? ` · ${Math.round(degrees)}°` : ''}`
