import { type FindingKind } from './step'
import { coordinate, flag, extent, length, turn } from '../fields/fields'

export interface RectangleFields {
  /** Left, top, width and height of the unrotated box, px. */
  x: number
  y: number
  width: number
  height: number
  /** Degrees clockwise about the box's centre. */
  rotation: number
  /** px; at most half the shorter side is used. */
  cornerRadius: number
  antialias: boolean
}

/** An upright, rotated or round-cornered box with exact-area edges. A box without width or height finds nothing. */
export const rectangle: FindingKind<'rectangle', RectangleFields> = {
  kind: 'rectangle',
  finds: true,
  looksAtPixels: false,
  fields: {
    x: coordinate('x'),
    y: coordinate('y'),
    width: extent('x'),
    height: extent('y'),
    rotation: turn(),
    cornerRadius: length(0),
    antialias: flag(true),
  },
}
