/** About how large a file will be: bits a pixel, by format; geometric means measured on three pictures of the demo with libvips' encoders. A real file may have a third of that, or half as much again. */
import { type FileFormat } from '@/document/fileFormats'
import { type Size } from '@/core/raster/picture'

/** Bits a pixel at a quality 50, and how many times as many for each 10 more. */
const LOSSY: Partial<Record<FileFormat, readonly [number, number]>> = {
  jpeg: [0.59, 1.42],
  webp: [0.46, 1.32],
  avif: [0.39, 1.5],
}
const LOSSLESS: Partial<Record<FileFormat, number>> = { png: 13, tiff: 10 }
/** Sixteen bits hold noise that does not pack. */
const DEEP = 2.2

export function estimatedBytes({ width, height }: Size, format: FileFormat, quality: number, depth: 8 | 16): number {
  const lossy = LOSSY[format],
    bits = lossy ? lossy[0] * lossy[1] ** ((quality - 50) / 10) : (LOSSLESS[format] ?? 0) * (depth === 16 ? DEEP : 1)
  return (width * height * bits) / 8
}
export const shownBytes = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`
