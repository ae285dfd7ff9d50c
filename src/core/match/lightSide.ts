/**
 * From which side light falls on what stands in a picture: things are round more often than hollow, so on the way across them it mostly
 * gets lighter towards the light. How often that is right is measured on ray-traced places and things (docs/QUALITY.md).
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { luma } from '../compose/adjustments/adjustment'
import { type Matte, type Picture } from '../raster/picture'
import { resize } from '../raster/resize'

/** The picture is looked at at about so many pixels, where it has more: what shading is depends on how large a pixel is. */
const PIXELS = 98_304
/** Differences of log luminance between neighbours: below it is grain, above it is where one thing ends and another begins. */
const LEAST = 0.004,
  MOST = 0.27
/** Added to luminance, so that grain in the dark does not count. */
const DARK = 0.01
/** What is as near as this to the sky does not count, px. */
const AWAY = 3
/** So many differences are needed. */
const ENOUGH = 2000

/** −1 (left) to 1 (right): by how much it gets lighter to the right on all ways that do, less those to the left, as a share of both. Null where too little can be seen. @param picture some 100 000 pixels and more; @param sky its coverage of sky */
export function lightSideOf(picture: Picture, sky: Matte): number | null {
  const { width, height, data } = sizedTo(PIXELS, picture),
    light = new Float32Array(width * height),
    open = new Uint8Array(light.length)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, row = Math.floor(((y + 0.5) * sky.height) / height) * sky.width; x < width; x++, i++) {
      const r = LINEAR_OF_BYTE[data[4 * i]],
        g = LINEAR_OF_BYTE[data[4 * i + 1]],
        b = LINEAR_OF_BYTE[data[4 * i + 2]]
      light[i] = Math.log(DARK + luma(r, g, b))
      open[i] = sky.data[row + Math.floor(((x + 0.5) * sky.width) / width)]
    }
  let lighter = 0,
    all = 0,
    count = 0
  for (let y = AWAY; y < height - AWAY; y++)
    for (let x = AWAY, i = y * width + AWAY; x < width - AWAY; x++, i++) {
      if (open[i] || open[i - AWAY] || open[i + AWAY] || open[i - AWAY * width] || open[i + AWAY * width]) continue
      const by = (light[i + 1] - light[i - 1]) / 2,
        much = Math.abs(by)
      if (much < LEAST || much > MOST) continue
      lighter += by
      all += much
      count++
    }
  return count < ENOUGH ? null : lighter / all
}

function sizedTo(pixels: number, picture: Picture): Picture {
  const scale = Math.sqrt(pixels / (picture.width * picture.height)),
    of = (length: number) => Math.max(1, Math.round(length * scale))
  return scale < 1 ? resize(picture, { width: of(picture.width), height: of(picture.height) }) : picture
}
