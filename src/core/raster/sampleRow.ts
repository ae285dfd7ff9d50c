/**
 * One row of a raster seen through an affine map. Outside the raster there is nothing, so placed edges are anti-aliased.
 * Whole-pixel placements copy; others interpolate premultiplied colour: bilinear, or bicubic where the result is seen at full size.
 * Source of the bicubic: Keys, "Cubic convolution interpolation for digital image processing", IEEE Trans. ASSP 29 (1981), a = −½.
 */
import { type Affine } from './affine'
import { type Matte, type Picture, words } from './picture'

const NEAR = 1e-6

/** True when the map only shifts by whole pixels. */
export const isShift = ([a, b, c, d, e, f]: Affine): boolean =>
  Math.abs(a - 1) < NEAR && Math.abs(d - 1) < NEAR && Math.abs(b) < NEAR && Math.abs(c) < NEAR && Math.abs(e - Math.round(e)) < 1e-4 && Math.abs(f - Math.round(f)) < 1e-4

/**
 * Fills `out` (4 floats a pixel: premultiplied colour 0-255, alpha 0-1) with row `y`.
 * @param map from output pixels to the picture's @returns false when the row touches nothing (`out` is then not valid)
 */
export function samplePictureRow(picture: Picture, opaque: boolean, map: Affine, y: number, fine: boolean, out: Float32Array): boolean {
  const pixels = words(picture)
  const count = out.length / 4
  const [a, b, c, d, e, f] = map
  if (isShift(map)) {
    const row = y + Math.round(f), shift = Math.round(e)
    if (row < 0 || row >= picture.height) return false
    const from = Math.max(0, -shift), to = Math.min(count, picture.width - shift)
    if (to <= from) return false
    out.fill(0, 0, from * 4)
    out.fill(0, to * 4)
    for (let x = from, i = from * 4; x < to; x++, i += 4) {
      const word = pixels[row * picture.width + x + shift]
      const alpha = opaque ? 1 : (word >>> 24) / 255
      out[i] = (word & 255) * alpha; out[i + 1] = ((word >>> 8) & 255) * alpha; out[i + 2] = ((word >>> 16) & 255) * alpha; out[i + 3] = alpha
    }
    return true
  }
  // Pixel centres to pixel centres.
  let u = a * 0.5 + c * (y + 0.5) + e - 0.5, v = b * 0.5 + d * (y + 0.5) + f - 0.5
  let touched = false
  for (let i = 0; i < out.length; i += 4, u += a, v += b) {
    if (u <= -2 || v <= -2 || u >= picture.width + 1 || v >= picture.height + 1) { out[i] = out[i + 1] = out[i + 2] = out[i + 3] = 0; continue }
    touched = true
    if (fine) bicubic(picture, pixels, u, v, out, i)
    else bilinear(picture, pixels, u, v, out, i)
  }
  return touched
}

function bilinear({ width, height }: Picture, pixels: Uint32Array, u: number, v: number, out: Float32Array, i: number): void {
  const x = Math.floor(u), y = Math.floor(v)
  const right = u - x, low = v - y
  let red = 0, green = 0, blue = 0, alpha = 0
  for (let k = 0; k < 4; k++) {
    const px = x + (k & 1), py = y + (k >> 1)
    if (px < 0 || py < 0 || px >= width || py >= height) continue
    const word = pixels[py * width + px]
    const weight = (k & 1 ? right : 1 - right) * (k >> 1 ? low : 1 - low) * ((word >>> 24) / 255)
    red += (word & 255) * weight; green += ((word >>> 8) & 255) * weight; blue += ((word >>> 16) & 255) * weight; alpha += weight
  }
  out[i] = red; out[i + 1] = green; out[i + 2] = blue; out[i + 3] = alpha
}

const across = new Float64Array(4), down = new Float64Array(4)
function keys(t: number, weights: Float64Array): void {
  const t2 = t * t, t3 = t2 * t
  weights[0] = -0.5 * t3 + t2 - 0.5 * t
  weights[1] = 1.5 * t3 - 2.5 * t2 + 1
  weights[2] = -1.5 * t3 + 2 * t2 + 0.5 * t
  weights[3] = 0.5 * t3 - 0.5 * t2
}

function bicubic({ width, height }: Picture, pixels: Uint32Array, u: number, v: number, out: Float32Array, i: number): void {
  const x = Math.floor(u), y = Math.floor(v)
  keys(u - x, across)
  keys(v - y, down)
  let red = 0, green = 0, blue = 0, alpha = 0
  for (let j = 0; j < 4; j++) {
    const py = y - 1 + j
    if (py < 0 || py >= height) continue
    for (let k = 0; k < 4; k++) {
      const px = x - 1 + k
      if (px < 0 || px >= width) continue
      const word = pixels[py * width + px]
      const weight = down[j] * across[k] * ((word >>> 24) / 255)
      red += (word & 255) * weight; green += ((word >>> 8) & 255) * weight; blue += ((word >>> 16) & 255) * weight; alpha += weight
    }
  }
  // The cubic overshoots at steps: alpha stays within 0-1, taking its colour along, and no colour leaves what its alpha allows.
  if (alpha > 1) { red /= alpha; green /= alpha; blue /= alpha; alpha = 1 } else if (alpha < 0) alpha = 0
  const most = 255 * alpha
  out[i] = red < 0 ? 0 : red > most ? most : red
  out[i + 1] = green < 0 ? 0 : green > most ? most : green
  out[i + 2] = blue < 0 ? 0 : blue > most ? most : blue
  out[i + 3] = alpha
}

/** As samplePictureRow, for coverage (0-1 in `out`, one float a pixel). */
export function sampleCoverageRow(matte: Matte, map: Affine, y: number, out: Float32Array): boolean {
  const { width, height, data } = matte
  const [a, b, c, d, e, f] = map
  if (isShift(map)) {
    const row = y + Math.round(f), shift = Math.round(e)
    if (row < 0 || row >= height) return false
    for (let x = 0; x < out.length; x++) { const column = x + shift; out[x] = column < 0 || column >= width ? 0 : data[row * width + column] / 255 }
    return true
  }
  let u = a * 0.5 + c * (y + 0.5) + e - 0.5, v = b * 0.5 + d * (y + 0.5) + f - 0.5
  let touched = false
  for (let x = 0; x < out.length; x++, u += a, v += b) {
    const left = Math.floor(u), top = Math.floor(v)
    if (left < -1 || top < -1 || left >= width || top >= height) { out[x] = 0; continue }
    touched = true
    const right = u - left, low = v - top
    const at = (column: number, row: number) => (column < 0 || row < 0 || column >= width || row >= height ? 0 : data[row * width + column])
    out[x] = ((at(left, top) * (1 - right) + at(left + 1, top) * right) * (1 - low) + (at(left, top + 1) * (1 - right) + at(left + 1, top + 1) * right) * low) / 255
  }
  return touched
}
