/** The files that pictures go out as. One list for page, server and command line. */
export const FILE_FORMATS = ['png', 'jpeg', 'webp', 'avif', 'tiff'] as const
export type FileFormat = (typeof FILE_FORMATS)[number]

interface FormatFacts {
  readonly name: string
  readonly extension: string
  readonly mediaType: string
  readonly alpha: boolean
  /** It loses something, by a quality. */
  readonly lossy: boolean
  /** It can hold 16 bits a channel. */
  readonly deep: boolean
}
export const FORMATS: Readonly<Record<FileFormat, FormatFacts>> = {
  png: { name: 'PNG', extension: 'png', mediaType: 'image/png', alpha: true, lossy: false, deep: true },
  jpeg: { name: 'JPEG', extension: 'jpg', mediaType: 'image/jpeg', alpha: false, lossy: true, deep: false },
  webp: { name: 'WebP', extension: 'webp', mediaType: 'image/webp', alpha: true, lossy: true, deep: false },
  avif: { name: 'AVIF', extension: 'avif', mediaType: 'image/avif', alpha: true, lossy: true, deep: false },
  tiff: { name: 'TIFF', extension: 'tif', mediaType: 'image/tiff', alpha: true, lossy: false, deep: true },
}
/** What lossy formats usually have, 1-100. */
export const USUAL_QUALITY = 92
export const keepsAlpha = (format: FileFormat): boolean => FORMATS[format].alpha
