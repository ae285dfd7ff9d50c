/** Reads the picture of a sky: what is sky in it, its light, the side its sun stands on, its grain. */
import { LINEAR_OF_BYTE } from '../colour/srgb'
import { luma } from '../compose/adjustments/adjustment'
import { type Matte, type Picture } from '../raster/picture'
import { tallyOf } from '../raster/tally'
import { airOf } from './air'
import { blurOf } from './edgeBlur'
import { grainOf } from './grain'
import { horizonOf } from './horizon'
import { SKY_PICTURE_VERSION, type SkyPicture } from './skyPicture'
import { skyLightOf } from './skyLight'
import { smallPicture } from './smallLevel'

/** With so much of it sky a picture shows no land. */
const ALL_SKY = 0.97

/** Dark land that is put below the picture of a sky, as a share of its height, grey. */
const LAND_BELOW = 0.4,
  LAND = 45

/**
 * A picture of a sky is a photo whose land was cut off: a small level of it, and the same with land below, for the finder to see what is sky in it.
 */
export function skyView(picture: Picture): { readonly small: Picture; readonly overLand: Picture } {
  const small = smallPicture(picture),
    { width, height } = small,
    tall = height + Math.ceil(LAND_BELOW * height),
    data = new Uint8ClampedArray(width * tall * 4)
  new Uint32Array(data.buffer).fill((255 << 24) | (LAND << 16) | (LAND << 8) | LAND)
  data.set(small.data)
  return { small, overLand: { width, height: tall, data } }
}

/** What the picture of a sky says. @param small a small level of it @param sky coverage of the sky there, which may be all of it; more rows do not count */
export function skyPictureOf(small: Picture, sky: Matte, picture: Picture): SkyPicture | null {
  const cover: Matte = { ...small, data: sky.data.subarray(0, small.width * small.height) },
    light = skyLightOf(small, cover.data),
    air = airOf(small, cover)
  if (!light || !air) return null
  // Without land the picture ends where its horizon is, or above it.
  const { width, height } = picture,
    land = tallyOf(cover).selected < ALL_SKY ? horizonOf(cover) : null
  return {
    version: SKY_PICTURE_VERSION,
    size: { width, height },
    horizonY: Math.min(height, Math.max(1, land ? (land.y * height) / small.height : height)),
    light,
    air,
    side: sunSideOf(small, cover.data),
    grain: grainOf(picture)?.deviation ?? 0,
    blur: blurOf(picture),
  }
}

/** A sky is brighter on one side when its luminance changes by this share of its mean from one end to the other. */
const SIDED = 0.15

/** @param picture some 100 000 to a million pixels @param counts 255 where it is sky */
export function sunSideOf({ width, data }: Picture, counts: Uint8Array): SkyPicture['side'] {
  let n = 0,
    sx = 0,
    sxx = 0,
    sl = 0,
    sxl = 0
  for (let p = 0, i = 0; p < counts.length; p++, i += 4) {
    if (counts[p] < 250) continue
    const x = (p % width) / width - 0.5,
      l = luma(LINEAR_OF_BYTE[data[i]], LINEAR_OF_BYTE[data[i + 1]], LINEAR_OF_BYTE[data[i + 2]])
    n++
    sx += x
    sxx += x * x
    sl += l
    sxl += x * l
  }
  const spread = sxx - (sx * sx) / n
  if (!n || spread <= 0 || sl <= 0) return null
  const slope = (sxl - (sx * sl) / n) / spread / (sl / n)
  return slope > SIDED ? 'right' : slope < -SIDED ? 'left' : null
}
