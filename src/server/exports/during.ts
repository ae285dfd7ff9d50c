/** Progress of what does not tell any: it comes nearer and nearer to the end, about as fast as such work goes, and says so twice a second and oftener. */
import { type Size } from '@/core/raster/picture'

const EVERY_MS = 200
/** Encoding, about (ms a megapixel). It only decides how fast the bar moves. */
const MS_A_MEGAPIXEL = 250

export async function during<T>(
  work: Promise<T>,
  { width, height }: Size,
  progress: (fraction: number) => void,
): Promise<T> {
  const began = performance.now(),
    usual = 200 + (width * height * MS_A_MEGAPIXEL) / 1e6
  const timer = setInterval(() => progress(1 - Math.exp(-(performance.now() - began) / usual)), EVERY_MS)
  try {
    return await work
  } finally {
    clearInterval(timer)
  }
}
