/** How another sky comes into a photo: where it lies, which way round, and what its light does to the land. */
import { type AdjustmentOf } from '../compose/adjustments/registry'
import { fromLinear } from '../colour/srgb'
import { reflection } from '../compose/adjustments/reflection'
import { luma } from '../compose/adjustments/adjustment'
import { type Affine } from '../raster/affine'
import { type Size } from '../raster/picture'
import { type Grain } from './grain'
import { type Horizon } from './horizon'
import { lackingGrain } from './lackingGrain'
import { LEAST_BLUR, softening } from './softening'
import { type Measures } from './measure'
import { type SkyLight } from './skyLight'
import { type SkyPicture } from './skyPicture'

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
  /** What it lacks of the photo's blur; null where it lacks none. */
  readonly blur: AdjustmentOf<'gaussianBlur'> | null
  /** The air of the new sky in the place of the old one's, as hazy as it was. */
  readonly haze: AdjustmentOf<'haze'>
  /** For water, where there is some. */
  readonly reflection: AdjustmentOf<'reflection'>
}
/** Haze is looked for in pieces of this half side, a share of the photo's longer side; more of it falls off by a factor e over this share of the photo's height. */
const HAZE_PATCH = 0.06,
  HAZE_DEPTH = 0.2

const held = (values: readonly number[]) => values.map((v) => Math.round(1e4 * Math.min(8, v)) / 1e4)
/** What looked like this before looks like this in the new light. */
const inLight = (before: readonly number[], { light, ambient, sun }: AdjustmentOf<'relight'>) =>
  held(before.map((v, c) => (v * (ambient[c] + sun[c])) / Math.max(1e-3, light[c])))

/** How softly water mirrors the sky, as a share of the photo's longer side. */
const SOFTNESS = 0.02
/** What makes water of a photo mirror the sky there is. @param old the photo's own sky @param relight the new sky's light, as it was measured */
export const reflectionOf = (
  { width, height }: Size,
  horizon: Horizon,
  old: SkyLight,
  relight: AdjustmentOf<'relight'>,
): AdjustmentOf<'reflection'> => ({
  kind: 'reflection',
  amount: 1,
  ripple: reflection.fields.ripple.fallback!,
  blur: Math.round(10 * SOFTNESS * Math.max(width, height)) / 10,
  horizon: horizon.y,
  tilt: horizon.tilt,
  was: inLight(old.ambient, relight),
})

/** Null where the photo has no sky to be replaced. */
export function newSkyOf(photo: Measures, sky: SkyPicture): NewSky | null {
  const { light, horizon, size } = photo
  if (!light || !horizon) return null
  const mirrored = sky.side !== null && (light.from === 'left' || light.from === 'right') && sky.side !== light.from,
    { ambient, direct } = light.sky,
    hazy = Math.round(1e3 * (photo.haze ?? 0)) / 1e3,
    relight: NewSky['relight'] = {
      kind: 'relight',
      tone: 1,
      colour: 1,
      direct: 1,
      light: held(ambient.map((v, c) => v + direct[c])),
      ambient: held(sky.light.ambient),
      sun: held(sky.light.direct),
    },
    placement = skyPlacement(size, horizon, sky, photo.skyBottom, mirrored)
  return {
    mirrored,
    placement,
    blur: blurOnSky(photo.blur, sky, Math.abs(placement[0])),
    grain: grainOnSky(photo.grain, sky, Math.abs(placement[0])),
    relight,
    haze: {
      kind: 'haze',
      amount: hazy,
      had: hazy,
      was: inLight(photo.air ?? ambient, relight),
      air: held(sky.air),
      patch: Math.round(HAZE_PATCH * Math.max(size.width, size.height)),
      horizon: horizon.y,
      tilt: horizon.tilt,
      depth: Math.round(HAZE_DEPTH * size.height),
    },
    reflection: reflectionOf(size, horizon, light.sky, relight),
  }
}

/** Made smaller, a picture's own grain averages out. @param scale the sky is laid in by */
const grainOnSky = (photo: Grain | null, { light, grain }: SkyPicture, scale: number) =>
  photo &&
  lackingGrain(
    photo,
    luma(fromLinear(light.ambient[0]), fromLinear(light.ambient[1]), fromLinear(light.ambient[2])),
    grain * Math.min(1, scale),
  )

/** Variances of blurs add up. @param scale the sky is laid in by: larger is softer */
function blurOnSky(photo: number | null, { blur }: SkyPicture, scale: number): AdjustmentOf<'gaussianBlur'> | null {
  const lacking = photo === null || blur === null ? 0 : Math.sqrt(Math.max(0, photo ** 2 - (blur * scale) ** 2))
  return lacking < LEAST_BLUR ? null : softening(lacking)
}
