import { type FindingKind } from './step'
import { coordinate, flag, extent, turn } from '../fields/fields'

export interface EllipseFields {
  /** Left, top, width and height of the unrotated box around it, px. */
  x: number
  y: number
  width: number
  height: number
  /** Degrees clockwise about the box's centre. */
  rotation: number
  antialias: boolean
}

/** An ellipse in a box, turned about its centre, with exact-area edges. A box without width or height finds nothing. */
export const ellipse: FindingKind<'ellipse', EllipseFields> = {
  kind: 'ellipse',
  finds: true,
  looksAtPixels: false,
  fields: {
    x: coordinate('x'),
    y: coordinate('y'),
    width: extent('x'),
    height: extent('y'),
    rotation: turn(),
    antialias: flag(true),
  },
}
