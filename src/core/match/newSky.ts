/** How another sky comes into a photo: where it lies, which way round, and what its light does to the land. */
import { type AdjustmentOf } from '../compose/adjustments/registry'
import { fromLinear, LINEAR_OF_BYTE } from '../colour/srgb'
import { luma } from '../compose/adjustments/adjustment'
import { grainAt } from '../compose/adjustments/grain'
import { type Affine } from '../raster/affine'
import { type Matte, type Picture, shares, type Size } from '../raster/picture'
import { type Grain, deviationAt, grainOf } from './grain'
import { type Horizon, horizonOf } from './horizon'
import { type Measures } from './measure'
import { type SkyLight, skyLightOf } from './skyLight'
import { smallPicture } from './smallLevel'

/** What a picture of a sky says. */
export interface SkyPicture {
  readonly size: Size
  /** px from the top. */
  readonly horizonY: number
  readonly light: SkyLight
  /** The side the sun stands on; null where the sky is as bright on both. */
  readonly side: 'left' | 'right' | null
  /** Standard deviation, levels. */
  readonly grain: number
}

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
    light = skyLightOf(small, cover.data)
  if (!light) return null
  // Without land the picture ends where its horizon is, or above it.
  const { width, height } = picture,
    land = shares(cover).selected < ALL_SKY ? horizonOf(cover) : null
  return {
    size: { width, height },
    horizonY: Math.min(height, Math.max(1, land ? (land.y * height) / small.height : height)),
    light,
    side: sunSideOf(small, cover.data),
    grain: grainOf(picture)?.deviation ?? 0,
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

/** Where the sky goes: as large as covers all that lies above the photo's horizon, its own horizon on the photo's, in the middle. @param lowest row down to which sky is seen, px */
export function skyPlacement(
  photo: Size,
  horizon: Horizon,
  sky: SkyPicture,
  lowest: number,
  mirrored: boolean,
): Affine {
  const { width, height } = sky.size,
    down = Math.max(lowest, horizon.y)
  // Above the horizon, below it, and across.
  const scale = Math.max(
    photo.width / width,
    horizon.y / sky.horizonY,
    (down - horizon.y) / Math.max(1e-6, height - sky.horizonY) <= photo.width / width ? 0 : down / height,
  )
  // Where the sky's picture ends too soon below its horizon, it is pulled down.
  const top = Math.min(0, Math.max(horizon.y - sky.horizonY * scale, down - height * scale)),
    left = (photo.width - width * scale) / 2
  return mirrored ? [-scale, 0, 0, scale, left + width * scale, top] : [scale, 0, 0, scale, left, top]
}

export interface NewSky {
  readonly placement: Affine
  readonly mirrored: boolean
  readonly relight: AdjustmentOf<'relight'>
  /** What the sky lacks of the photo's grain; null where it lacks none. */
  readonly grain: AdjustmentOf<'grain'> | null
}

/** Null where the photo has no sky to be replaced. @param lowest row down to which sky is seen, px */
export function newSkyOf(photo: Measures, sky: SkyPicture, lowest: number): NewSky | null {
  const { light, horizon, size } = photo
  if (!light || !horizon) return null
  const mirrored = sky.side !== null && (light.from === 'left' || light.from === 'right') && sky.side !== light.from,
    { ambient, direct } = light.sky,
    held = (values: readonly number[]) => values.map((v) => Math.round(1e4 * Math.min(8, v)) / 1e4),
    placement = skyPlacement(size, horizon, sky, lowest, mirrored)
  return {
    mirrored,
    placement,
    grain: lackingGrain(photo.grain, sky, Math.abs(placement[0])),
    relight: {
      kind: 'relight',
      tone: 1,
      colour: 1,
      direct: 1,
      light: held(ambient.map((v, c) => v + direct[c])),
      ambient: held(sky.light.ambient),
      sun: held(sky.light.direct),
    },
  }
}

/** Grain below this cannot be told from what compression leaves, levels. */
const TELLABLE = 0.4

/** Variances of grain add up; made smaller, a picture's own averages out. @param scale the sky is laid in by */
function lackingGrain(
  photo: Grain | null,
  { light, grain: own }: SkyPicture,
  scale: number,
): AdjustmentOf<'grain'> | null {
  if (!photo) return null
  const tone = luma(...(light.ambient.map(fromLinear) as [number, number, number])),
    wanted = deviationAt(photo, tone),
    lacking = Math.sqrt(Math.max(0, wanted ** 2 - (own * Math.min(1, scale)) ** 2))
  if (lacking < TELLABLE) return null
  const amount = Math.min(1, lacking / 255 / grainAt(1, tone))
  return { kind: 'grain', amount: Math.round(1e4 * amount) / 1e4, size: 1, coloured: false, seed: 1 }
}
