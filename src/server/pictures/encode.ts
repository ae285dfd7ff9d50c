/** Pixels to picture files. Encoding is libvips' (sharp); what leaves is sRGB, and says so. */
import sharp, { type Sharp } from 'sharp'
import { type DeepPicture, type Matte, type Picture } from '@/core/raster/picture'
import { type FileFormat, keepsAlpha } from '@/document/fileFormats'
import { type ExifBlocks } from './exif'
import { addExif } from './tiffExif'

export interface Encoding {
  readonly format: FileFormat
  /** 1-100, for formats that lose something. */
  readonly quality: number
  /** What shows through where nothing is, for formats without alpha. */
  readonly background: string
  /** The photo's own data, ready to be written (exif.ts). */
  readonly exif?: ExifBlocks
  /** Pixels an inch. */
  readonly ppi?: number
}
export const rawOf = ({ width, height, data }: Picture | DeepPicture): Sharp =>
  sharp(data as Uint8ClampedArray, { raw: { width, height, channels: 4 } })

export async function writePicture(picture: Picture | DeepPicture, encoding: Encoding, file: string): Promise<void> {
  await encoded(picture, encoding).toFile(file)
  if (encoding.format === 'tiff' && encoding.exif) await addExif(file, encoding.exif)
}

/** To be written to a file or a buffer; in a TIFF EXIF is missing still (writePicture adds it). */
export function encoded(picture: Picture | DeepPicture, { format, quality, background, exif, ppi }: Encoding): Sharp {
  const deep = picture.data instanceof Uint16Array
  let image = deep ? rawOf(picture).toColourspace('rgb16') : rawOf(picture)
  if (!keepsAlpha(format)) image = image.flatten({ background })
  switch (format) {
    case 'jpeg':
      image = image.jpeg({ quality, chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0' })
      break
    case 'webp':
      image = image.webp({ quality })
      break
    case 'avif':
      image = image.avif({ quality, effort: 3, chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0' })
      break
    case 'tiff':
      image = image.tiff({ compression: 'deflate', predictor: 'horizontal' })
      break
    case 'png':
      image = image.png({ compressionLevel: 6 })
  }
  if (exif && format !== 'tiff') image = image.withExif(exif)
  if (ppi) image = image.withDensity(ppi)
  // Where no profile is said, pictures are sRGB; saying it would convert 16 bits through a table, and lose some.
  return deep ? image : image.withIccProfile('srgb')
}

/** A matte as a grey PNG. 16 bits: 255 becomes 65535. */
export function greyPng({ width, height, data }: Matte, depth: 8 | 16): Sharp {
  if (depth === 8)
    return sharp(data, { raw: { width, height, channels: 1 } })
      .toColourspace('b-w')
      .png({ compressionLevel: 6 })
  const deep = Uint16Array.from(data, (v) => v * 257)
  return sharp(deep as never, { raw: { width, height, channels: 1 } })
    .toColourspace('grey16')
    .png({ compressionLevel: 6 })
}
