/**
 * Affine maps of the plane as [a, b, c, d, e, f], the order of SVG's matrix(): x' = a·x + c·y + e, y' = b·x + d·y + f.
 * Source: SVG 2, "Coordinate systems, transformations and units".
 */
export type Affine = readonly [number, number, number, number, number, number]

export const IDENTITY: Affine = [1, 0, 0, 1, 0, 0]

/** The map that applies `second` after `first`. */
export function compose(second: Affine, first: Affine): Affine {
  const [a, b, c, d, e, f] = second
  const [A, B, C, D, E, F] = first
  return [a * A + c * B, b * A + d * B, a * C + c * D, b * C + d * D, a * E + c * F + e, b * E + d * F + f]
}

/** Throws RangeError when the map flattens the plane (determinant 0 or not finite). */
export function inverse([a, b, c, d, e, f]: Affine): Affine {
  const det = a * d - b * c
  if (!Number.isFinite(det) || Math.abs(det) < 1e-18)
    throw new RangeError('This placement has no inverse: its width or height is zero.')
  const plus = (v: number) => v / det + 0 // never −0, which JSON does not keep
  return [plus(d), plus(-b), plus(-c), plus(a), plus(c * f - d * e), plus(b * e - a * f)]
}

export function apply([a, b, c, d, e, f]: Affine, x: number, y: number): [number, number] {
  return [a * x + c * y + e, b * x + d * y + f]
}

export const translation = (x: number, y: number): Affine => [1, 0, 0, 1, x, y]
export const scaling = (x: number, y = x): Affine => [x, 0, 0, y, 0, 0]

/** Clockwise rotation in degrees (y points down) about a centre. */
export function rotation(degrees: number, centreX = 0, centreY = 0): Affine {
  const cos = Math.cos((degrees * Math.PI) / 180),
    sin = Math.sin((degrees * Math.PI) / 180)
  return compose(translation(centreX, centreY), compose([cos, sin, -sin, cos, 0, 0], translation(-centreX, -centreY)))
}

/** Mean factor by which lengths grow: the square root of the area factor. */
export const meanScale = ([a, b, c, d]: Affine): number => Math.sqrt(Math.abs(a * d - b * c))

export const isIdentity = (m: Affine): boolean => m.every((v, i) => Math.abs(v - IDENTITY[i]) < 1e-12)
