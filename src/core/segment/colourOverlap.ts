import { INSIDE } from './gridCut'
import { type LabPlanes } from './labPlanes'

/** Colours are counted in cells of so many CIELAB units. */
const CELL = 8,
  SIDE = 33

/**
 * How much the colours inside and outside overlap, 0 (none in common) to 1 (the same).
 * Source: Bhattacharyya, "On a measure of divergence between two statistical populations", Bulletin of the Calcutta Mathematical Society 35 (1943).
 */
export function colourOverlap(state: Uint8Array, { L, a, b }: LabPlanes): number {
  const inside = new Float64Array(SIDE ** 3),
    outside = new Float64Array(SIDE ** 3)
  let ins = 0,
    outs = 0
  for (let i = 0; i < state.length; i++) {
    const cell =
      (Math.floor(L[i] / CELL) * SIDE + Math.floor((a[i] + 128) / CELL)) * SIDE + Math.floor((b[i] + 128) / CELL)
    if (state[i] === INSIDE) {
      inside[cell]++
      ins++
    } else {
      outside[cell]++
      outs++
    }
  }
  if (!ins || !outs) return 1
  let sum = 0
  for (let k = 0; k < inside.length; k++)
    if (inside[k] && outside[k]) sum += Math.sqrt((inside[k] / ins) * (outside[k] / outs))
  return sum
}
