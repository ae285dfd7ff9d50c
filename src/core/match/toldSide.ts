/** Light comes from a side when what is measured (−1 left, 1 right: lightSide.ts) is at least so far from even. */
const SIDED = 0.01
export const sideOf = (side: number | null): 'left' | 'right' | null =>
  side === null || Math.abs(side) < SIDED ? null : side < 0 ? 'left' : 'right'
