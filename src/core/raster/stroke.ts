/** What strokes and their dabs are made of. */

export interface Stroke {
  /** px; an optional third number is the pressure, 0-1, which scales the size. */
  readonly points: readonly (readonly [x: number, y: number] | readonly [x: number, y: number, pressure: number])[]
  /** Diameter, px. */
  readonly size: number
  /** 1: a clean anti-aliased edge; 0: fading over the whole radius. */
  readonly hardness: number
  /** 0-1. */
  readonly strength: number
  /** Distance between dabs as a share of the size. */
  readonly spacing: number
  readonly tip: 'round' | 'square'
  readonly erase: boolean
}
/** Stamps are kept up to this many bytes; a larger one is made row by row where it is needed. */
export const STAMP_BYTES = 16 << 20
export const LANES = 16
export const lanes = (count: number): number => (count + LANES - 1) & ~(LANES - 1)

export interface Box {
  left: number
  top: number
  right: number
  bottom: number
}

export const sidesOf = (size: number): { half: number; side: number } => {
  const half = Math.ceil(size / 2) + 1
  return { half, side: 2 * half + 1 }
}
