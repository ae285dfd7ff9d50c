/** Placements as people name them: where the corner lies, how large, how far turned. */
import { type Affine, apply, compose, rotation, scaling, translation } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'

export interface Placement { readonly x: number; readonly y: number; /** 1 is the picture's own size. */ readonly scale: number; /** Degrees clockwise. */ readonly turn: number }

/** @param size of the layer's picture; x and y say where its upper left corner lies. */
export function placementOf([a, b, c, d, e, f]: Affine): Placement {
  return { x: e, y: f, scale: Math.sqrt(Math.abs(a * d - b * c)), turn: (Math.atan2(b, a) * 180) / Math.PI }
}

/** The placement scaled by a factor about a canvas point. */
export const scaledAbout = (placement: Affine, factor: number, x: number, y: number): Affine => compose(compose(translation(x, y), scaling(factor)), compose(translation(-x, -y), placement))
/** The placement turned by degrees about the layer's middle. */
export function turnedAboutMiddle(placement: Affine, size: Size, degrees: number): Affine {
  const [x, y] = apply(placement, size.width / 2, size.height / 2)
  return compose(rotation(degrees, x, y), placement)
}
export const flipped = (placement: Affine, size: Size, across: boolean): Affine => compose(placement, across ? [-1, 0, 0, 1, size.width, 0] : [1, 0, 0, -1, 0, size.height])

/** In the canvas's middle, as large as fits within it or covers it. */
export function placedInMiddle(size: Size, canvas: Size, how: 'fit' | 'cover' | 'own'): Affine {
  const across = canvas.width / size.width, down = canvas.height / size.height
  const scale = how === 'own' ? 1 : how === 'fit' ? Math.min(across, down) : Math.max(across, down)
  return [scale, 0, 0, scale, Math.round((canvas.width - size.width * scale) / 2), Math.round((canvas.height - size.height * scale) / 2)]
}
