/** The colour of the air over the land: what haze takes its light from. */
import { type Matte, type Picture } from '../raster/picture'
import { type Light, skyLightOf } from './skyLight'

/** Sky this near above the land, as a share of the picture's height. */
const OVER_LAND = 0.1

/** The mean of the sky just above where it ends, linear; null where there is none. */
export function airOf(picture: Picture, sky: Matte): Light | null {
  const { width, height } = sky,
    near = new Uint8Array(sky.data.length),
    tall = Math.max(1, Math.round(OVER_LAND * height))
  for (let x = 0; x < width; x++) {
    let end = height - 1
    while (end >= 0 && sky.data[end * width + x] < 250) end--
    for (let y = Math.max(0, end - tall); y <= end; y++) near[y * width + x] = sky.data[y * width + x]
  }
  return skyLightOf(picture, near)?.ambient ?? null
}
