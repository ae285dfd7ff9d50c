/**
 * How hazy the far land is: in clear air something in every small piece of land is all but black in one channel; haze lifts that towards the air's colour.
 * Source: He, Sun and Tang, "Single image haze removal using dark channel prior", CVPR 2009.
 */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { type Matte, type Picture } from '../raster/picture'
import { type Light } from './skyLight'

/** Side of a piece, as a share of the picture's longer side. */
const PIECE = 0.02
/** The far land lies this near below the sky, as a share of the picture's height. */
const FAR = 0.06

/** Share of the air's light in the far land, 0-1; null where no land lies below sky. @param air colour of the sky above the land */
export function hazeOf({ width, height, data }: Picture, sky: Matte, air: Light): number | null {
  const side = Math.max(3, Math.round(PIECE * Math.max(width, height))),
    found: number[] = []
  for (let x = 0; x + side <= width; x += side) {
    let end = height - 1
    while (end >= 0 && sky.data[end * width + x + (side >> 1)] < 128) end--
    if (end < 0) continue
    for (let y = end + 3; y + side <= height && y < end + FAR * height; y += side) {
      let dark = 1
      for (let v = y; v < y + side; v++)
        for (let u = x, i = (v * width + x) * 4; u < x + side; u++, i += 4) {
          if (sky.data[v * width + u] > 5) continue
          for (let c = 0; c < 3; c++) dark = Math.min(dark, LINEAR_OF_BYTE[data[i + c]] / Math.max(0.02, air[c]))
        }
      found.push(dark)
    }
  }
  if (!found.length) return null
  return Math.min(1, found.sort((a, b) => a - b)[found.length >> 1])
}
