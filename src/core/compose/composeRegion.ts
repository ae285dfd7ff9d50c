/**
 * Layers to pixels: any rectangle of the canvas, at any mip level.
 *
 * Layers are drawn bottom to top with source-over on premultiplied colour: co = cs·αs + cb·αb·(1 − αs), αo = αs + αb·(1 − αs).
 * Source: W3C Compositing and Blending Level 1, section 9.1.4 "Source Over". The sums are kept in floating point and rounded once.
 */
import { type Affine, apply, compose, inverse, meanScale, scaling } from '../raster/affine'
import { type Matte, type Picture } from '../raster/picture'
import { isShift, sampleCoverageRow, samplePictureRow } from '../raster/sampleRow'

export interface PlacedMask {
  /** Mip levels, full size first. */
  readonly levels: readonly Matte[]
  /** From the mask's pixels to the canvas's. */
  readonly toCanvas: Affine
}

export interface PlacedPicture {
  readonly levels: readonly Picture[]
  readonly opaque: boolean
  readonly toCanvas: Affine
  /** 0-1. */
  readonly opacity: number
  readonly mask?: PlacedMask
}

/** A rectangle in pixels of the canvas at 1 / 2^level. */
export interface Region { readonly level: number; readonly x: number; readonly y: number; readonly width: number; readonly height: number }

/** @param layers bottom first; only those to be shown. Returns the region's pixels, straight alpha. */
export function composeRegion(layers: readonly PlacedPicture[], region: Region): Picture {
  const { width, height } = region
  if (layers.length === 1) { const copied = copyWhole(layers[0], region); if (copied) return copied }
  const sums = new Float32Array(width * height * 4) // premultiplied colour 0-255, alpha 0-1
  for (const layer of layers) drawOver(sums, layer, region)
  return { width, height, data: toStraight(sums) }
}

/** The mip level that comes nearest to one source pixel for each output pixel, and the map from output pixels to its pixels. */
function pickLevel(count: number, toCanvas: Affine, region: Region): { level: number; map: Affine } | null {
  let toSource: Affine
  try { toSource = inverse(toCanvas) } catch { return null } // flattened to a line: nothing to see
  const step = 2 ** region.level
  const full = compose(toSource, scaling(step))
  const level = Math.min(count - 1, Math.max(0, Math.round(Math.log2(meanScale(full)))))
  const map = compose(scaling(1 / 2 ** level), full)
  // Shift so that (0, 0) is the region's first pixel.
  const [e, f] = apply(map, region.x, region.y)
  return { level, map: [map[0], map[1], map[2], map[3], e, f] }
}

/** One layer that lies on whole pixels of its level, with nothing to mix: its rows as they are. Null when it is not so. */
function copyWhole(layer: PlacedPicture, region: Region): Picture | null {
  if (layer.mask || layer.opacity !== 1) return null
  const source = pickLevel(layer.levels.length, layer.toCanvas, region)
  if (!source || !isShift(source.map)) return null
  const picture = layer.levels[source.level], { width, height } = region
  const shiftX = Math.round(source.map[4]), shiftY = Math.round(source.map[5])
  const from = Math.max(0, -shiftX), to = Math.min(width, picture.width - shiftX)
  const data = new Uint8ClampedArray(width * height * 4)
  if (to > from) {
    for (let y = Math.max(0, -shiftY); y < Math.min(height, picture.height - shiftY); y++) {
      const start = (y + shiftY) * picture.width + shiftX
      data.set(picture.data.subarray((start + from) * 4, (start + to) * 4), (y * width + from) * 4)
    }
  }
  return { width, height, data }
}

function drawOver(sums: Float32Array, layer: PlacedPicture, region: Region): void {
  const source = pickLevel(layer.levels.length, layer.toCanvas, region)
  const mask = layer.mask && pickLevel(layer.mask.levels.length, layer.mask.toCanvas, region)
  if (!source || mask === null || layer.opacity <= 0) return
  const picture = layer.levels[source.level]
  const fine = region.level === 0
  const rows = rowsTouched(picture, source.map, region)
  const colour = new Float32Array(region.width * 4)
  const coverage = mask ? new Float32Array(region.width) : null
  for (let y = rows.from; y < rows.to; y++) {
    if (!samplePictureRow(picture, layer.opaque, source.map, y, fine, colour)) continue
    if (mask && coverage && !sampleCoverageRow(layer.mask!.levels[mask.level], mask.map, y, coverage)) continue
    const row = y * region.width * 4
    for (let x = 0, i = 0; x < region.width; x++, i += 4) {
      const share = coverage ? layer.opacity * coverage[x] : layer.opacity
      const alpha = colour[i + 3] * share
      if (alpha === 0) continue
      const under = 1 - alpha, o = row + i
      sums[o] = colour[i] * share + sums[o] * under
      sums[o + 1] = colour[i + 1] * share + sums[o + 1] * under
      sums[o + 2] = colour[i + 2] * share + sums[o + 2] * under
      sums[o + 3] = alpha + sums[o + 3] * under
    }
  }
}

/** Rows of the region that a picture can touch: the vertical extent of its four corners, with two pixels to spare for the filter. */
function rowsTouched(picture: Picture, map: Affine, region: Region): { from: number; to: number } {
  const back = inverse(map)
  const ys = [[0, 0], [picture.width, 0], [0, picture.height], [picture.width, picture.height]].map(([x, y]) => apply(back, x, y)[1])
  return { from: Math.max(0, Math.floor(Math.min(...ys)) - 2), to: Math.min(region.height, Math.ceil(Math.max(...ys)) + 2) }
}

function toStraight(sums: Float32Array): Uint8ClampedArray {
  const out = new Uint8ClampedArray(sums.length) // clamps and rounds to nearest
  for (let i = 0; i < sums.length; i += 4) {
    const alpha = sums[i + 3]
    if (alpha <= 0) continue
    const scale = alpha >= 1 ? 1 : 1 / alpha
    out[i] = sums[i] * scale
    out[i + 1] = sums[i + 1] * scale
    out[i + 2] = sums[i + 2] * scale
    out[i + 3] = alpha * 255
  }
  return out
}
