/** What lies over the picture, at screen resolution from the matte's mip levels: tint, cut-out, matte, what was dimmed, what changed, and the marching outline. */
import { type Affine, compose, inverse, meanScale, scaling, translation } from '@/core/raster/affine'
import { outlinePixels } from '@/core/raster/outline'
import { type Matte, type Size } from '@/core/raster/picture'
import { bitmapOf } from '../bitmaps'
import { ANT_PHASES, type Backing, type OverlayStyle, type SharedMatte, type Viewport } from '../protocol'

export interface PlacedMatte {
  readonly levels: SharedMatte
  readonly toCanvas: Affine
}
/** What is selected, what to compare it with, and the canvas both lie on. */
export interface Selected {
  readonly shown: PlacedMatte | null
  readonly kept: PlacedMatte | null
  readonly canvas: Size
}

const CHECK_PX = 8
/** What dims the outside: the dark of a neutral surround. */
const DIM_GREY = 0x2a
/** Length of a dash, and how far it marches from one phase to the next. */
const ANT_PX = 4,
  ANT_STEP = (2 * ANT_PX) / ANT_PHASES
/** What was added and what was taken away, blue in the high byte, and the width of the hatching. */
const MORE = 0xc85123,
  LESS = 0x006bb3,
  HATCH = 4
const CHECKS = [0xffffff, 0xcfcfcf] as const
/** The two colours of a backing's checks, blue in the high byte. */
function backingWords(backing: Backing): readonly [number, number] {
  if (backing === 'checks') return CHECKS
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(backing.slice(at, at + 2), 16)),
    word = r | (g << 8) | (b << 16)
  return [word, word]
}

/**
 * Coverage at each pixel of the view, from the mip level nearest to it: nearest pixel where the view is coarser, bilinear where it is finer.
 * Null when there is no selection. Pixels outside the matte get 0, and −1 in `outside`.
 */
function coverageInView(placed: PlacedMatte | null, view: Viewport, smooth: boolean): Uint8Array | null {
  if (!placed) return null
  const { width, height } = view,
    matte = placed.levels
  const toMatte = compose(inverse(placed.toCanvas), compose(translation(view.left, view.top), scaling(1 / view.scale)))
  const level = Math.min(matte.length - 1, Math.max(0, Math.round(Math.log2(meanScale(toMatte)))))
  const [a, b, c, d, e, f] = compose(scaling(1 / 2 ** level), toMatte)
  const source: Matte = matte[level]
  const out = new Uint8Array(width * height)
  const fine = smooth && meanScale([a, b, c, d, 0, 0]) < 0.75
  for (let y = 0, i = 0; y < height; y++) {
    let u = a * 0.5 + c * (y + 0.5) + e,
      v = b * 0.5 + d * (y + 0.5) + f
    for (let x = 0; x < width; x++, i++, u += a, v += b) {
      if (u < 0 || v < 0 || u >= source.width || v >= source.height) continue
      out[i] = fine ? bilinear(source, u - 0.5, v - 0.5) : source.data[(v | 0) * source.width + (u | 0)]
    }
  }
  return out
}

function bilinear({ width, height, data }: Matte, u: number, v: number): number {
  const x = u < 0 ? 0 : u | 0,
    y = v < 0 ? 0 : v | 0
  const right = x + 1 < width ? x + 1 : x,
    low = y + 1 < height ? y + 1 : y
  const fx = u < 0 ? 0 : u - x,
    fy = v < 0 ? 0 : v - y
  const top = data[y * width + x] * (1 - fx) + data[y * width + right] * fx
  const bottom = data[low * width + x] * (1 - fx) + data[low * width + right] * fx
  return top * (1 - fy) + bottom * fy + 0.5
}

/** The view's pixels that lie on the canvas, as a box of whole pixels. */
function canvasInView(view: Viewport, canvas: Size): { left: number; top: number; right: number; bottom: number } {
  const at = (canvasX: number, origin: number) => Math.round((canvasX - origin) * view.scale)
  return {
    left: Math.max(0, at(0, view.left)),
    top: Math.max(0, at(0, view.top)),
    right: Math.min(view.width, at(canvas.width, view.left)),
    bottom: Math.min(view.height, at(canvas.height, view.top)),
  }
}

/** What lies over the picture in these views; null where nothing does. */
export function overlay({ shown, kept, canvas }: Selected, view: Viewport, style: OverlayStyle): ImageBitmap | null {
  if (style.mode === 'plain' || style.mode === 'ants') return null
  const coverage = coverageInView(shown, view, false),
    other = style.compare && kept ? coverageInView(kept, view, false) : null
  if (other && style.compare === 'difference') return differenceOf(coverage, other, view)
  const otherUntil = other && typeof style.compare === 'object' ? (style.compare.leftOf - view.left) * view.scale : -1
  const box = canvasInView(view, canvas)
  if (box.right <= box.left || box.bottom <= box.top) return null
  const image = new ImageData(view.width, view.height)
  const pixels = new Uint32Array(image.data.buffer)
  const [red, green, blue] = style.tint
  const tint = red | (green << 8) | (blue << 16)
  const [light, dark] = backingWords(style.backing)
  for (let y = box.top; y < box.bottom; y++) {
    for (let x = box.left, i = y * view.width + x; x < box.right; x++, i++) {
      const v = other && x < otherUntil ? other[i] : coverage ? coverage[i] : 0
      if (style.mode === 'tint')
        pixels[i] = (tint | (Math.round((style.tintHidden ? 255 - v : v) * style.tintOpacity) << 24)) >>> 0
      else if (style.mode === 'dimmed')
        pixels[i] = (DIM_GREY | (DIM_GREY << 8) | (DIM_GREY << 16) | (Math.round((255 - v) * style.dim) << 24)) >>> 0
      else if (style.mode === 'matte') pixels[i] = (v | (v << 8) | (v << 16) | 0xff000000) >>> 0
      else {
        const word = ((x / CHECK_PX) & 1) === ((y / CHECK_PX) & 1) ? light : dark
        pixels[i] = (word | ((255 - v) << 24)) >>> 0
      }
    }
  }
  return bitmapOf(image)
}

/** Where the shown matte has more than the kept one (blue, solid) and where less (amber, hatched), as strongly as they differ. */
function differenceOf(now: Uint8Array | null, other: Uint8Array, { width, height }: Viewport): ImageBitmap {
  const image = new ImageData(width, height),
    pixels = new Uint32Array(image.data.buffer)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const change = (now ? now[i] : 0) - other[i]
      if (change > 0) pixels[i] = (MORE | (Math.min(255, 60 + change) << 24)) >>> 0
      else if (change < 0 && (x + y) & HATCH) pixels[i] = (LESS | (Math.min(255, 60 - change) << 24)) >>> 0
    }
  return bitmapOf(image)
}

/** The first phases of the marching outline, a bitmap each. */
export function ants(shown: PlacedMatte | null, view: Viewport, phases: number): ImageBitmap[] {
  const coverage = coverageInView(shown, view, true)
  if (!coverage) return []
  const line = outlinePixels(coverage, view.width, view.height)
  if (!line.length) return []
  const image = new ImageData(view.width, view.height)
  const pixels = new Uint32Array(image.data.buffer)
  const surface = new OffscreenCanvas(view.width, view.height)
  const context = surface.getContext('2d')!
  const top = Math.floor(line[0] / view.width),
    rows = Math.floor(line[line.length - 1] / view.width) + 1 - top
  return Array.from({ length: phases }, (_, phase) => {
    for (const i of line)
      pixels[i] = ((i % view.width) + ((i / view.width) | 0) + phase * ANT_STEP) & ANT_PX ? 0xffffffff : 0xff101010
    context.putImageData(image, 0, 0, 0, top, view.width, rows)
    return surface.transferToImageBitmap()
  })
}
