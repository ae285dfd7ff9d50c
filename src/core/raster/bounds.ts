import { type Box } from './content'
import { type Size } from './picture'

/** Left, top, right, bottom of points; of none: an empty box. */
export function boundsOfPoints(points: readonly (readonly number[])[]): [number, number, number, number] {
  let left = Infinity,
    top = Infinity,
    right = -Infinity,
    bottom = -Infinity
  for (const [x, y] of points) {
    left = Math.min(left, x)
    top = Math.min(top, y)
    right = Math.max(right, x)
    bottom = Math.max(bottom, y)
  }
  return points.length ? [left, top, right, bottom] : [0, 0, 0, 0]
}

/** A box and what lies `by` px around it, within a picture. */
export function around(box: Box, by: number, { width, height }: Size): Box {
  const x = Math.max(0, box.x - by),
    y = Math.max(0, box.y - by)
  return {
    x,
    y,
    width: Math.min(width, box.x + box.width + by) - x,
    height: Math.min(height, box.y + box.height + by) - y,
  }
}

/** Whether anything in a box of a plane is not 0. @param stride values from row to row */
export function anyIn(plane: Uint8Array, stride: number, { x, y, width, height }: Box): boolean {
  for (let row = y; row < y + height; row++)
    for (let i = row * stride + x, end = i + width; i < end; i++) if (plane[i]) return true
  return false
}
