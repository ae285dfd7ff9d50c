import { apply, rotation } from '../raster/affine'
import { type Point } from '../vector/fill'
import { coordinate, flag, extent, number } from '../common/fields'
import { filled } from './filled'
import { type Finder } from './finder'

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

export function triangleOutline({
  x,
  y,
  width,
  height,
  rotation: degrees,
}: Omit<TriangleFields, 'antialias'>): Point[] {
  const turn = rotation(degrees, x + width / 2, y + height / 2)
  return [
    [x + width / 2, y],
    [x + width, y + height],
    [x, y + height],
  ].map(([px, py]) => apply(turn, px, py))
}

/** An isosceles triangle in a box, turned about the box's centre, with exact-area edges. A box without width or height finds nothing. */
export const triangle: Finder<'triangle', TriangleFields> = {
  kind: 'triangle',
  finds: true,
  looksAtPixels: false,
  fields: {
    x: coordinate(),
    y: coordinate(),
    width: extent(),
    height: extent(),
    rotation: number(-36000, 36000, 0),
    antialias: flag(true),
  },
  find: (scene, params, context) =>
    filled(
      scene,
      params.width > 0 && params.height > 0 ? [triangleOutline(params)] : [],
      'nonzero',
      params.antialias,
      context,
    ),
}
