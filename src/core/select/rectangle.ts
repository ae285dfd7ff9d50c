import { rectangle as rectangleStep, type RectangleFields } from '../steps/rectangle'
import { type Point } from '../vector/fill'
import { apply, rotation } from '../raster/affine'
import { filled } from './filled'
import { type Finder } from './finder'

/** Pieces in a quarter circle of radius r, so that no piece leaves the true arc by more than 1/200 px (sagitta r·(1 − cos(θ/2))). */
export const arcPieces = (radius: number): number =>
  Math.max(2, Math.ceil(Math.PI / 4 / Math.acos(1 - Math.min(1, 0.005 / radius))))

/** The outline of a rectangle, its corners rounded with arcs of circles. */
export function rectangleOutline({
  x,
  y,
  width,
  height,
  rotation: degrees,
  cornerRadius,
}: Omit<RectangleFields, 'antialias'>): Point[] {
  const radius = Math.min(cornerRadius, width / 2, height / 2)
  const turn = rotation(degrees, x + width / 2, y + height / 2)
  const points: Point[] = []
  const corner = (centreX: number, centreY: number, startDegrees: number) => {
    if (radius <= 0) {
      points.push(apply(turn, centreX, centreY))
      return
    }
    const pieces = arcPieces(radius)
    for (let i = 0; i <= pieces; i++) {
      const angle = ((startDegrees + (90 * i) / pieces) * Math.PI) / 180
      points.push(apply(turn, centreX + radius * Math.cos(angle), centreY + radius * Math.sin(angle)))
    }
  }
  corner(x + radius, y + radius, 180)
  corner(x + width - radius, y + radius, 270)
  corner(x + width - radius, y + height - radius, 0)
  corner(x + radius, y + height - radius, 90)
  return points
}

/** An upright, rotated or round-cornered box with exact-area edges. A box without width or height finds nothing. */
export const rectangle: Finder<'rectangle', RectangleFields> = {
  ...rectangleStep,
  find: (scene, params, context) =>
    filled(
      scene,
      params.width > 0 && params.height > 0 ? [rectangleOutline(params)] : [],
      'nonzero',
      params.antialias,
      context,
    ),
}
