import { type FindingKind } from './step'
import { coordinate, flag, extent, turn } from '../fields/fields'

export interface TriangleFields {
  /** Left, top, width and height of the unrotated box around it, px. */
  x: number
  y: number
  width: number
  height: number
  /** Degrees clockwise about the box's centre; at 0 the apex points up. */
  rotation: number
  antialias: boolean
}

/** An isosceles triangle in a box, turned about the box's centre, with exact-area edges. A box without width or height finds nothing. */
export const triangle: FindingKind<'triangle', TriangleFields> = {
  kind: 'triangle',
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
