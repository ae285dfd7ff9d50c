import { triangle as triangleStep, type TriangleFields } from '../steps/triangle'
import { apply, rotation } from '../raster/affine'
import { type Point } from '../vector/fill'
import { filled } from './filled'
import { type Finder } from './finder'

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
  ...triangleStep,
  find: (scene, params, context) =>
    filled(
      scene,
      params.width > 0 && params.height > 0 ? [triangleOutline(params)] : [],
      'nonzero',
      params.antialias,
      context,
    ),
}
