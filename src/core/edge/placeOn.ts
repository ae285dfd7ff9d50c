import { type Ribbon } from './ribbon'

/** The place on the canvas of a place on the ribbon: px along, and px out (above zero) or in. Beyond the ends the last place. */
export function placeOn({ places, length }: Ribbon, along: number, out: number): [number, number] {
  if (length === 0) return [0, 0]
  const k = 4 * Math.max(0, Math.min(length - 1, Math.round(along)))
  return [places[k] + places[k + 2] * out, places[k + 1] + places[k + 3] * out]
}
