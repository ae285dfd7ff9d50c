/** Small bitmaps made inside the workers. */
import { mattePyramid } from '@/core/raster/levels'
import { type Matte } from '@/core/raster/picture'

export function bitmapOf(image: ImageData): ImageBitmap {
  const surface = new OffscreenCanvas(image.width, image.height)
  surface.getContext('2d')!.putImageData(image, 0, 0)
  return surface.transferToImageBitmap()
}

/** At most `longest` px on its longer side. */
export function scaled(source: ImageBitmap | OffscreenCanvas, longest: number): OffscreenCanvas {
  const scale = Math.min(1, longest / Math.max(source.width, source.height))
  const target = new OffscreenCanvas(
    Math.max(1, Math.round(source.width * scale)),
    Math.max(1, Math.round(source.height * scale)),
  )
  const context = target.getContext('2d')!
  context.imageSmoothingQuality = 'high'
  context.drawImage(source, 0, 0, target.width, target.height)
  return target
}

/** A matte as a small grey bitmap. @param levels its mip levels, or the full matte alone */
export function matteBitmap(levels: readonly Matte[], longest: number): ImageBitmap {
  const all = levels.length > 1 ? levels : mattePyramid(levels[0])
  const { width, height, data } = all[all.length - 1]
  const image = new ImageData(width, height)
  data.forEach((v, i) => image.data.set([v, v, v, 255], i * 4))
  return scaled(bitmapOf(image), longest).transferToImageBitmap()
}

/** Rows put into a canvas at a time. */
const STRIP_ROWS = 1024
/** A matte as a grey PNG of its size. */
export function mattePng({ width, height, data }: Matte): Promise<Blob> {
  const surface = new OffscreenCanvas(width, height),
    paint = surface.getContext('2d', { alpha: false })!
  for (let y = 0; y < height; y += STRIP_ROWS) {
    const rows = Math.min(STRIP_ROWS, height - y),
      strip = new ImageData(width, rows),
      pixels = new Uint32Array(strip.data.buffer)
    for (let i = 0, from = y * width; i < pixels.length; i++) {
      const v = data[from + i]
      pixels[i] = (v | (v << 8) | (v << 16) | 0xff000000) >>> 0
    }
    paint.putImageData(strip, 0, y)
  }
  return surface.convertToBlob({ type: 'image/png' })
}
