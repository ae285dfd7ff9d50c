/** Picture files to pixels in shared memory, as the export reads them: straight alpha, no colour conversion. */
import { decode as decodePng } from 'fast-png'
import { rarestHue } from '@/core/colour/rarestHue'
import { picturePyramid } from '@/core/raster/levels'
import { isOpaque, type Picture } from '@/core/raster/picture'
import { type SharedPicture, UNAVAILABLE } from '../protocol'

const STRIP_ROWS = 1024
export const shared = (bytes: number) => new SharedArrayBuffer(bytes)

/** Throws an error named UNAVAILABLE, with a sentence, when the picture cannot be had now. */
export async function fetchPicture(asset: string): Promise<SharedPicture> {
  const file = await fetchFile(asset)
  let full: Picture
  try {
    full = await pixelsOf(file)
  } catch {
    throw new Error('A picture could not be decoded by this browser.')
  }
  const opaque = file.type === 'image/jpeg' || isOpaque(full)
  if (!opaque) full = (await exactly(file, full)) ?? full
  const levels = picturePyramid(full, opaque, shared)
  return { levels, opaque, rarestHue: rarestHue(levels[levels.length - 1]) }
}

async function fetchFile(asset: string): Promise<Blob> {
  const unavailable = (why: string) =>
    Object.assign(new Error(`A picture could not be loaded: ${why}`), { name: UNAVAILABLE })
  let response: Response
  try {
    response = await fetch(`/api/pictures/${asset}`)
  } catch {
    throw unavailable('the server cannot be reached right now.')
  }
  if (!response.ok) {
    const { problem } = (await response.json().catch(() => ({}))) as { problem?: string }
    throw unavailable(problem ?? 'the server did not say why.')
  }
  return response.blob().catch(() => {
    throw unavailable('the connection broke off.')
  })
}

async function pixelsOf(file: Blob): Promise<Picture> {
  const bitmap = await createImageBitmap(file, { colorSpaceConversion: 'none', premultiplyAlpha: 'none' })
  const { width, height } = bitmap
  const full: Picture = { width, height, data: new Uint8ClampedArray(shared(width * height * 4)) }
  try {
    if (!(file.type === 'image/jpeg' && (await throughFrame(bitmap, full)))) throughCanvas(bitmap, full)
  } finally {
    bitmap.close()
  }
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
