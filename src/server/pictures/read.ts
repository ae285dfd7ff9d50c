/**
 * Picture files to pixels: looked at first, refused in one sentence or read upright, in 8-bit sRGB.
 * Decoding is libvips' (sharp). Memory is bounded by LIMITS: at most 600 MB of decoded pixels.
 */
import { type Readable } from 'node:stream'
import sharp, { type Metadata } from 'sharp'
import { type Picture } from '@/core/raster/picture'
import { LIMITS as RECORDS, PICTURE_BYTES } from '@/document/limits'
import { kindOf, tiffIsWhole } from './firstBytes'

/** A sentence for the person who chose the file. */
export class PictureError extends Error {}

export const LIMITS = { bytes: PICTURE_BYTES, pixels: RECORDS.pixels, side: RECORDS.side } as const
/** Densities outside this say nothing about a picture. */
const LEAST_PPI = 10,
  MOST_PPI = 5000
const MEDIA_TYPES: Record<string, string> = {
  jpeg: 'image/jpeg',
  png: 'image/png',
  webp: 'image/webp',
  tiff: 'image/tiff',
  heif: 'image/avif',
  gif: 'image/gif',
}

export interface PictureInfo {
  readonly width: number
  readonly height: number
  readonly mediaType: string
  /** True when any 8-bit sRGB reader shows the file as it is: no turning, no profile to convert, no other depth or colour model; alpha only in a PNG of four channels, which the page reads exactly. */
  readonly plain: boolean
  /** Pixels per inch, where the file says so. */
  readonly ppi: number | null
}

/** A processor each for two pictures at a time: the server goes on answering. */
sharp.concurrency(1)
/** sharp caches decoded files and their pieces; pictures here are read once. */
sharp.cache(false)

const open = (input: string | Buffer) =>
  sharp(input, { failOn: 'truncated', limitInputPixels: LIMITS.pixels, unlimited: false })
const upright = (input: string | Buffer) => open(input).autoOrient().toColourspace('srgb')

/** Looks at the file's first bytes, then at its header. `name` is used in the sentence. Throws PictureError. */
export async function inspectPicture(input: string | Buffer, name: string): Promise<PictureInfo> {
  const unreadable = () =>
    new PictureError(
      `“${name}” is not a picture this application can read: it takes JPEG, PNG, WebP, TIFF, AVIF and GIF.`,
    )
  // No decoder sees what is none of these.
  const kind = await kindOf(input)
  if (!kind) throw unreadable()
  if (kind === 'tiff' && !(await tiffIsWhole(input)))
    throw new PictureError(`“${name}” is damaged: it says more than it holds (it is cut off).`)
  let meta: Metadata
  try {
    meta = await sharp(input, { limitInputPixels: false }).metadata()
  } catch {
    throw unreadable()
  }
  const mediaType = MEDIA_TYPES[meta.format ?? '']
  if (!mediaType || meta.format !== kind || !meta.width || !meta.height) throw unreadable()
  const turned = (meta.orientation ?? 1) > 4
  const frame = meta.pageHeight ?? meta.height
  const width = turned ? frame : meta.width,
    height = turned ? meta.width : frame
  if (width * height > LIMITS.pixels)
    throw new PictureError(
      `“${name}” has ${Math.round((width * height) / 1e6)} megapixels (${width} × ${height}); up to ${LIMITS.pixels / 1e6} are read.`,
    )
  if (Math.max(width, height) > LIMITS.side)
    throw new PictureError(`“${name}” is ${width} × ${height} px; a side may have up to ${LIMITS.side} px.`)
  const plain =
    ['jpeg', 'png', 'webp'].includes(meta.format) &&
    (meta.orientation ?? 1) === 1 &&
    (meta.pages ?? 1) === 1 &&
    meta.depth === 'uchar' &&
    ['srgb', 'b-w'].includes(meta.space ?? '') &&
    !meta.hasProfile &&
    (!meta.hasAlpha || (meta.format === 'png' && meta.channels === 4 && !meta.isPalette))
  const ppi = meta.density && meta.density >= LEAST_PPI && meta.density <= MOST_PPI ? Math.round(meta.density) : null
  return { width, height, mediaType, plain, ppi }
}

/** Reads the pixels. Throws PictureError when the data is damaged or ends early. */
export async function readPicture(input: string | Buffer, name: string): Promise<Picture> {
  const info = await inspectPicture(input, name)
  try {
    const { data, info: size } = await upright(input)
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true })
    return {
      width: size.width,
      height: size.height,
      data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length),
    }
  } catch (error) {
    throw damaged(error, name, info)
  }
}

/** The pixels as they are decoded, row by row: 8-bit sRGB with alpha. Throws PictureError, also in the stream. */
export async function pixelStream(
  input: string,
  name: string,
): Promise<{ stream: Readable; width: number; height: number }> {
  const info = await inspectPicture(input, name)
  return { stream: upright(input).ensureAlpha().raw({ depth: 'uchar' }), width: info.width, height: info.height }
}

/** Reads every pixel without keeping them, so that a damaged file is refused before it is stored. */
export async function checkPicture(input: string | Buffer, name: string): Promise<PictureInfo> {
  const info = await inspectPicture(input, name)
  try {
    await open(input).resize(1, 1, { fit: 'fill', fastShrinkOnLoad: false }).raw().toBuffer()
  } catch (error) {
    throw damaged(error, name, info)
  }
  return info
}

/** The same picture as a plain PNG, for readers that would show the file differently. */
export const toPlainPng = (input: string, output: string) =>
  upright(input).png({ compressionLevel: 2, palette: false }).toFile(output)

function damaged(error: unknown, name: string, { width, height }: PictureInfo): PictureError {
  const detail = error instanceof Error ? error.message.split('\n')[0] : ''
  return new PictureError(
    `“${name}” is damaged: it says ${width} × ${height} px, but its data ends early or does not decode${/premature|truncat|end/i.test(detail) ? ' (it is cut off)' : ''}.`,
  )
}

/** A small WebP of a picture that is stored, its longer side so many px at most. */
export async function shrunk(input: string, longest: number, output: string): Promise<void> {
  await upright(input)
    .resize(longest, longest, { fit: 'inside', withoutEnlargement: true })
    .webp({ quality: 82 })
    .toFile(output)
}
