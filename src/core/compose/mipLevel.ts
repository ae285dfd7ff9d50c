/** Which mip level of a picture or mask a region looks at, and where. */
import { type Affine, apply, compose, inverse, meanScale, scaling } from '../raster/affine'
import { type Size } from '../raster/picture'
import { type Region } from './region'

/** The mip level that comes nearest to one source pixel for each output pixel, and the map from the region's pixels to its pixels. */
export function pickLevel(
  count: number,
  toCanvas: Affine,
  region: Region,
  least = 0,
): { level: number; map: Affine } | null {
  let toSource: Affine
  try {
    toSource = inverse(toCanvas)
  } catch {
    return null
  } // flattened to a line: nothing to see
  const full = compose(toSource, scaling(2 ** region.level))
  const level = Math.min(count - 1, Math.max(least, Math.round(Math.log2(meanScale(full)))))
  const map = compose(scaling(1 / 2 ** level), full)
  const [e, f] = apply(map, region.x, region.y)
  return { level, map: [map[0], map[1], map[2], map[3], e, f] }
}

/** Pixels of a picture that are laid out at a time. */
export const MOST_LOOKED_AT = 4e6
export const areaLookedAt = ([a, b, c, d]: Affine, { width, height }: Region): number =>
  (Math.abs(a) * width + Math.abs(c) * height) * (Math.abs(b) * width + Math.abs(d) * height)

/** Rows of the region that a picture can touch: the vertical extent of its four corners, with two pixels to spare for the filter. */
export function rowsTouched(picture: Size, map: Affine, region: Region): { from: number; to: number } {
  const back = inverse(map)
  const ys = [
    [0, 0],
    [picture.width, 0],
    [0, picture.height],
    [picture.width, picture.height],
  ].map(([x, y]) => apply(back, x, y)[1])
  return {
    from: Math.max(0, Math.floor(Math.min(...ys)) - 2),
    to: Math.min(region.height, Math.ceil(Math.max(...ys)) + 2),
  }
}
