/** Pictures and mattes drawn by a function of the place, and noise for them. */
import { type Matte, type Picture } from '@/core/raster/picture'

export const WIDTH = 240,
  HEIGHT = 160
export type Rgb = readonly [number, number, number]
export const picture = (colour: (x: number, y: number) => Rgb, width = WIDTH, height = HEIGHT): Picture => {
  const data = new Uint8ClampedArray(width * height * 4)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const [r, g, b] = colour(x, y)
      data[i] = r
      data[i + 1] = g
      data[i + 2] = b
      data[i + 3] = 255
    }
  return { width, height, data }
}
export const matte = (on: (x: number, y: number) => boolean, width = WIDTH, height = HEIGHT): Matte => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, i) => (on(i % width, Math.floor(i / width)) ? 255 : 0)),
})
export const all = matte(() => true)
/** A standard normal deviate of a place (Box and Muller, 1958, on a hash of it). */
export const normal = (x: number, y: number, c: number): number => {
  const share = (k: number) => {
    let v = Math.imul(x + 1, 0x9e3779b1) ^ Math.imul(y + 1, 0x85ebca6b) ^ Math.imul(c * 2 + k + 1, 0xc2b2ae35)
    v = Math.imul(v ^ (v >>> 15), 0x2c1b3c6d)
    v = Math.imul(v ^ (v >>> 12), 0x297a2d39)
    return ((v ^ (v >>> 15)) >>> 0) / 2 ** 32
  }
  return Math.sqrt(-2 * Math.log(share(0) + 1e-9)) * Math.cos(2 * Math.PI * share(1))
}
