import { ellipse as ellipseStep, type EllipseFields } from '../steps/ellipse'
import { apply, rotation } from '../raster/affine'
import { type Point } from '../vector/fill'
import { filled } from './filled'
import { type Finder } from './finder'
import { arcPieces } from './rectangle'

/** The outline as a polygon that nowhere leaves the ellipse by more than 1/200 px. */
export function ellipseOutline({ x, y, width, height, rotation: degrees }: Omit<EllipseFields, 'antialias'>): Point[] {
  const centreX = x + width / 2,
    centreY = y + height / 2
  const turn = rotation(degrees, centreX, centreY)
  const pieces = 4 * arcPieces(Math.max(width, height) / 2)
  // Between the inscribed and the circumscribed polygon, so that the area is the ellipse's own.
  const step = (2 * Math.PI) / pieces,
    equalArea = Math.sqrt(step / Math.sin(step))
  return Array.from({ length: pieces }, (_, i) =>
    apply(
      turn,
      centreX + (width / 2) * equalArea * Math.cos(i * step),
      centreY + (height / 2) * equalArea * Math.sin(i * step),
    ),
  )
}

/** An ellipse in a box, turned about its centre, with exact-area edges. A box without width or height finds nothing. */
export const ellipse: Finder<'ellipse', EllipseFields> = {
  ...ellipseStep,
  find: (scene, params, context) =>
    filled(
      scene,
      params.width > 0 && params.height > 0 ? [ellipseOutline(params)] : [],
      'nonzero',
      params.antialias,
      context,
    ),
}
