/** A picture in greys drawn by a function of the place. */
import { type Picture } from '@/core/raster/picture'

export const greyPicture = (width: number, height: number, at: (x: number, y: number) => number): Picture => {
  const data = new Uint8ClampedArray(width * height * 4)
  for (let i = 0; i < width * height; i++) {
    const v = at(i % width, Math.floor(i / width))
    data.set([v, v, v, 255], i * 4)
  }
  return { width, height, data }
}
