/** What the measurements on drawn pictures and photographs share. */
import '@/core/network/withAllWeights'
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
/** The horizon is told where it lies so near the truth, as a share of the height. */
const NEAR = 0.015
/** How far off horizons are, in words. @param off shares of the height */
export function horizonsOff(off: readonly number[]): string {
  const percent = (share: number): string => `${(100 * share).toFixed(2)} %`
  return `${off.length} horizons: median ${percent(off.toSorted((a, b) => a - b)[off.length >> 1])}, mean ${percent(mean(off))}, worst tenth ${percent(worst(off))}, within ${percent(NEAR)}: ${off.filter((v) => v <= NEAR).length}`
}
export const mean = (values: readonly number[]): number =>
  values.reduce((sum, v) => sum + v, 0) / Math.max(1, values.length)
/** The mean of the largest tenth. */
export const worst = (values: readonly number[]): number =>
  mean([...values].sort((a, b) => b - a).slice(0, Math.max(1, Math.floor(values.length / 10))))
