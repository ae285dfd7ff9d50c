/** A picture's L*, a* and b*, a plane each, for work that asks for colours again and again. */
import { labRow } from '../colour/labRow'
import { type Picture, type Size, words } from '../raster/picture'

export interface LabPlanes {
  readonly width: number
  readonly height: number
  readonly L: Float32Array
  readonly a: Float32Array
  readonly b: Float32Array
  /** The colours themselves, red in the low byte. */ readonly words: Uint32Array
}

export function labPlanes(picture: Picture): LabPlanes {
  const { width, height } = picture,
    count = width * height
  const planes = {
    width,
    height,
    L: new Float32Array(count),
    a: new Float32Array(count),
    b: new Float32Array(count),
    words: words(picture),
  }
  labRow(words(picture), 0, count, planes.L, planes.a, planes.b)
  return planes
}

/** Each plane by the mean of 3×3 pixels: takes grain away and keeps boundaries within a pixel. */
export function calmed({ width, height, L, a, b, words }: LabPlanes): LabPlanes {
  return {
    width,
    height,
    L: boxMean(L, { width, height }),
    a: boxMean(a, { width, height }),
    b: boxMean(b, { width, height }),
    words,
  }
}

/** The mean of 3×3 pixels; at the border, of those that are there, the outermost counted again. */
export function boxMean(from: Float32Array, { width, height }: Size): Float32Array {
  const rows = new Float32Array(from.length),
    out = new Float32Array(from.length)
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0, before = from[o], here = before; x < width; x++, o++) {
      const next = x < width - 1 ? from[o + 1] : here
      rows[o] = (before + here + next) / 3
      before = here
      here = next
    }
  for (let y = 0; y < height; y++) {
    const up = Math.max(0, y - 1) * width,
      here = y * width,
      down = Math.min(height - 1, y + 1) * width
    for (let x = 0; x < width; x++) out[here + x] = (rows[up + x] + rows[here + x] + rows[down + x]) / 3
  }
  return out
}
