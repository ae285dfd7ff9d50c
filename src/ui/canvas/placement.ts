/** Placements as people name them: where the corner lies, how large, how far turned. */
import { type Affine, apply, compose, rotation, scaling, translation } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'

/** x and y say where the upper left corner lies; 1 is the picture's own size; turn and skew are degrees, clockwise. */
export interface Placement {
  readonly x: number
  readonly y: number
  readonly across: number
  readonly down: number
  readonly turn: number
  readonly skew: number
}

/** A placement as a turn of a skew of a stretch: [a c; b d] = R(turn) · [across, down · tan(skew); 0, down]. */
export function placementOf([a, b, c, d, e, f]: Affine): Placement {
  const across = Math.hypot(a, b),
    degrees = (radians: number) => (radians * 180) / Math.PI
  if (across === 0) return { x: e, y: f, across: 0, down: Math.hypot(c, d), turn: 0, skew: 0 }
  const down = (a * d - b * c) / across,
    lean = (a * c + b * d) / across
  return {
    x: e,
    y: f,
    across,
    down,
    turn: degrees(Math.atan2(b, a)),
    skew: down === 0 ? 0 : degrees(Math.atan(lean / down)),
  }
}
export function affineOf({ x, y, across, down, turn, skew }: Placement): Affine {
  const cos = Math.cos((turn * Math.PI) / 180),
    sin = Math.sin((turn * Math.PI) / 180),
    lean = down * Math.tan((skew * Math.PI) / 180)
  return [cos * across, sin * across, cos * lean - sin * down, sin * lean + cos * down, x, y]
}
/** The same values but some, with the middle of a size staying where it is. */
export function changedAboutMiddle(placement: Affine, size: Size, change: Partial<Placement>): Affine {
  const next = affineOf({ ...placementOf(placement), ...change }),
    [x, y] = apply(placement, size.width / 2, size.height / 2),
    [nx, ny] = apply(next, size.width / 2, size.height / 2)
  return compose(translation(x - nx, y - ny), next)
}

/** The placement scaled by a factor about a canvas point. */
export const scaledAbout = (placement: Affine, factor: number, x: number, y: number): Affine =>
  compose(compose(translation(x, y), scaling(factor)), compose(translation(-x, -y), placement))
/** The placement turned by degrees about the layer's middle. */
export function turnedAboutMiddle(placement: Affine, size: Size, degrees: number): Affine {
  const [x, y] = apply(placement, size.width / 2, size.height / 2)
  return compose(rotation(degrees, x, y), placement)
}
export const flipped = (placement: Affine, size: Size, across: boolean): Affine =>
  compose(placement, across ? [-1, 0, 0, 1, size.width, 0] : [1, 0, 0, -1, 0, size.height])

/** In the canvas's middle, as large as fits within it or covers it. */
export function placedInMiddle(size: Size, canvas: Size, how: 'fit' | 'cover' | 'own'): Affine {
  const across = canvas.width / size.width,
    down = canvas.height / size.height
  const scale = how === 'own' ? 1 : how === 'fit' ? Math.min(across, down) : Math.max(across, down)
  return [
    scale,
    0,
    0,
    scale,
    Math.round((canvas.width - size.width * scale) / 2),
    Math.round((canvas.height - size.height * scale) / 2),
  ]
}
