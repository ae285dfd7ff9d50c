/** Picture files to pixels in shared memory, as the export reads them: straight alpha, no colour conversion. */
import { decode as decodePng } from 'fast-png'
import { rarestHue } from '@/core/colour/rarestHue'
import { picturePyramid } from '@/core/raster/levels'
import { isOpaque, type Picture } from '@/core/raster/picture'
import { type DecodedFile, type SharedPicture } from '../protocol'
import { decodedFile, UNDECODABLE } from './file'

const STRIP_ROWS = 1024
export const shared = (bytes: number) => new SharedArrayBuffer(bytes)

/** @param early what the page has made of the file; null where it could not. Throws as `decodedFile` does */
export async function fetchPicture(asset: string, early?: Promise<DecodedFile | null>): Promise<SharedPicture> {
  const { file, bitmap } = (await early) ?? (await decodedFile(asset))
  let full: Picture
  try {
    full = await pixelsOf(file, bitmap)
  } catch {
    throw new Error(UNDECODABLE)
  } finally {
    bitmap.close()
  }
  const opaque = file.type === 'image/jpeg' || isOpaque(full)
  if (!opaque) full = (await exactly(file, full)) ?? full
  const levels = picturePyramid(full, opaque, shared)
  return { levels, opaque, rarestHue: rarestHue(levels[levels.length - 1]) }
}

async function pixelsOf(file: Blob, bitmap: ImageBitmap): Promise<Picture> {
  const { width, height } = bitmap,
    full: Picture = { width, height, data: new Uint8ClampedArray(shared(width * height * 4)) }
  if (!(file.type === 'image/jpeg' && (await throughFrame(bitmap, full)))) throughCanvas(bitmap, full)
  return full
}

/** Straight into shared memory, where the browser can: half the time of a canvas, the same bytes. */
async function throughFrame(bitmap: ImageBitmap, { data }: Picture): Promise<boolean> {
  if (typeof VideoFrame === 'undefined') return false
  let frame: VideoFrame | undefined
  try {
    frame = new VideoFrame(bitmap, { timestamp: 0 })
    // It would hand out the rows of a turned photo as they lie in the file. The server keeps photos upright; nothing rests on that here.
    const { rotation, flip } = frame as { rotation?: number; flip?: boolean }
    if (rotation || flip) return false
    await frame.copyTo(data, { format: 'RGBA' })
    return true
  } catch {
    return false
  } finally {
    frame?.close()
  }
}

function throughCanvas(bitmap: ImageBitmap, { width, height, data }: Picture): void {
  const rows = Math.min(STRIP_ROWS, height)
  const canvas = new OffscreenCanvas(width, rows).getContext('2d', { willReadFrequently: true })!
  for (let y = 0; y < height; y += rows) {
    const count = Math.min(rows, height - y)
    canvas.clearRect(0, 0, width, rows)
    canvas.drawImage(bitmap, 0, y, width, count, 0, 0, width, count)
    data.set(canvas.getImageData(0, 0, width, count).data, y * width * 4)
  }
}

/** A canvas keeps colours multiplied by their alpha, in bytes: where little shows, little of the colour is left. A PNG with alpha is read past it; null for other files (the server keeps pictures with alpha as such a PNG). */
async function exactly(file: Blob, { width, height, data }: Picture): Promise<Picture | null> {
  if (file.type !== 'image/png') return null
  try {
    const png = decodePng(await file.arrayBuffer())
    if (png.depth !== 8 || png.channels !== 4 || png.width !== width || png.height !== height) return null
    data.set(png.data)
    return { width, height, data }
  } catch {
    return null
  }
}
