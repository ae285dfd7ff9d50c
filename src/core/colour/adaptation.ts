/**
 * Chromatic adaptation by the Bradford cone response. 3×3 matrices row by row.
 * Source: Lindbloom, "Chromatic Adaptation" and "RGB/XYZ Matrices"; the daylight line: CIE 15:2004, section 3.1; uv: CIE 1960 UCS.
 */

export type Matrix = readonly [number, number, number, number, number, number, number, number, number]
/** X, Y, Z with Y = 1. */
export type White = readonly [number, number, number]

/** sRGB's own white. Source: IEC 61966-2-1 by its chromaticity x = 0.3127, y = 0.3290. */
export const D65: White = [0.3127 / 0.329, 1, (1 - 0.3127 - 0.329) / 0.329]

/** Linear sRGB to XYZ under D65. Source: CSS Color Module Level 4, "Sample code for color conversions". */
export const RGB_TO_XYZ: Matrix = [
  506752 / 1228815,
  87881 / 245763,
  12673 / 70218,
  87098 / 409605,
  175762 / 245763,
  12673 / 175545,
  7918 / 409605,
  87881 / 737289,
  1001167 / 1053270,
]

const BRADFORD: Matrix = [0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296]

export function multiply(a: Matrix, b: Matrix): Matrix {
  const at = (row: number, column: number) =>
    a[row * 3] * b[column] + a[row * 3 + 1] * b[3 + column] + a[row * 3 + 2] * b[6 + column]
  return [at(0, 0), at(0, 1), at(0, 2), at(1, 0), at(1, 1), at(1, 2), at(2, 0), at(2, 1), at(2, 2)]
}
export function inverted([a, b, c, d, e, f, g, h, i]: Matrix): Matrix {
  const A = e * i - f * h,
    B = f * g - d * i,
    C = d * h - e * g,
    det = a * A + b * B + c * C
  return [
    A / det,
    (c * h - b * i) / det,
    (b * f - c * e) / det,
    B / det,
    (a * i - c * g) / det,
    (c * d - a * f) / det,
    C / det,
    (b * g - a * h) / det,
    (a * e - b * d) / det,
  ]
}
export const times = (m: Matrix, [x, y, z]: readonly number[]): [number, number, number] => [
  m[0] * x + m[1] * y + m[2] * z,
  m[3] * x + m[4] * y + m[5] * z,
  m[6] * x + m[7] * y + m[8] * z,
]

export const XYZ_TO_RGB: Matrix = inverted(RGB_TO_XYZ)

/** The matrix that takes XYZ as seen under one white to XYZ as seen under another. */
export function adaptation(from: White, to: White): Matrix {
  const [r, g, b] = times(BRADFORD, from),
    [R, G, B] = times(BRADFORD, to)
  return multiply(inverted(BRADFORD), multiply([R / r, 0, 0, 0, G / g, 0, 0, 0, B / b], BRADFORD))
}

/** CIE 1960 u, v of XYZ. */
export const uvOf = ([x, y, z]: readonly number[]): [u: number, v: number] => {
  const sum = x + 15 * y + 3 * z
  return [(4 * x) / sum, (6 * y) / sum]
}

/** The white of a daylight of some kelvin (held to 4000-25000, where the line is defined), moved by `dv` across it in CIE 1960 v. */
export function whiteOf(kelvin: number, dv: number): White {
  const t = Math.min(25_000, Math.max(4000, kelvin))
  const x =
    t <= 7000
      ? 0.244063 + 99.11 / t + 2.9678e6 / t ** 2 - 4.607e9 / t ** 3
      : 0.23704 + 247.48 / t + 1.9018e6 / t ** 2 - 2.0064e9 / t ** 3
  const y = -3 * x * x + 2.87 * x - 0.275
  const [u, onLine] = uvOf([x, y, 1 - x - y]),
    v = onLine + dv
  const nx = (3 * u) / (2 * u - 8 * v + 4),
    ny = (2 * v) / (2 * u - 8 * v + 4)
  return [nx / ny, 1, (1 - nx - ny) / ny]
}
