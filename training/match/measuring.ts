/** What the measurements on drawn pictures share. */
import sharp from 'sharp'
import { type Matte, type Picture } from '@/core/raster/picture'

/** @param most px wide, where it is wider */
export async function read(file: string, most?: number): Promise<Picture> {
  const { data, info } = await sharp(file)
    .resize({ width: most, withoutEnlargement: true })
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) }
}
/** A matte from a grey picture. */
export const greyOf = ({ width, height, data }: Picture): Matte => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, i) => data[4 * i]),
})
export const mean = (values: readonly number[]): number =>
  values.reduce((sum, v) => sum + v, 0) / Math.max(1, values.length)
/** The mean of the largest tenth. */
export const worst = (values: readonly number[]): number =>
  mean([...values].sort((a, b) => b - a).slice(0, Math.max(1, Math.floor(values.length / 10))))
