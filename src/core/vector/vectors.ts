import { type Point } from './fill'

export function unit(from: Point, to: Point): Point | null {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1])
  return length > 0 ? [(to[0] - from[0]) / length, (to[1] - from[1]) / length] : null
}

export const minus = (a: Point, b: Point): [number, number] => [a[0] - b[0], a[1] - b[1]]
