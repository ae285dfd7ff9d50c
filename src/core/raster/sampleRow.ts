/** Rows of mattes seen through affine maps. */
import { type Affine } from './affine'
import { type Matte } from './picture'

const NEAR = 1e-6

/** True when the map only shifts by whole pixels. */
export const isShift = ([a, b, c, d, e, f]: Affine): boolean =>
  Math.abs(a - 1) < NEAR &&
  Math.abs(d - 1) < NEAR &&
  Math.abs(b) < NEAR &&
  Math.abs(c) < NEAR &&
  Math.abs(e - Math.round(e)) < 1e-4 &&
  Math.abs(f - Math.round(f)) < 1e-4

/**
 * Fills `out` with row `y` of a matte, 0-1: copied where it lies on whole pixels, bilinear otherwise. @param map from output pixels to the matte's
 * @param outside what lies beyond the matte, 0-255 @returns false when the row touches nothing (`out` is then not valid)
 */
export function sampleCoverageRow(matte: Matte, map: Affine, y: number, out: Float32Array, outside = 0): boolean {
  const { width, height, data } = matte
  const [a, b, c, d, e, f] = map
  if (isShift(map)) {
    const row = y + Math.round(f),
      shift = Math.round(e)
    if (row < 0 || row >= height) return false
    for (let x = 0; x < out.length; x++) {
      const column = x + shift
      out[x] = (column < 0 || column >= width ? outside : data[row * width + column]) / 255
    }
    return true
  }
  let u = a * 0.5 + c * (y + 0.5) + e - 0.5,
    v = b * 0.5 + d * (y + 0.5) + f - 0.5
  let touched = false
  const at = (column: number, row: number) =>
    column < 0 || row < 0 || column >= width || row >= height ? outside : data[row * width + column]
  for (let x = 0; x < out.length; x++, u += a, v += b) {
    const left = Math.floor(u),
      top = Math.floor(v)
    if (left < -1 || top < -1 || left >= width || top >= height) {
      out[x] = outside / 255
      continue
    }
    touched = true
    const right = u - left,
      low = v - top
    out[x] =
      ((at(left, top) * (1 - right) + at(left + 1, top) * right) * (1 - low) +
        (at(left, top + 1) * (1 - right) + at(left + 1, top + 1) * right) * low) /
      255
  }
  return touched
}
