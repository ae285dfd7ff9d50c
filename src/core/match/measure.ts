/** What a photo says about the place it was taken in: horizon, light, grain, blur, haze. Everything a new sky, or a thing put into it, is matched to. */
import { temperatureOf } from '../colour/temperature'
import { type Likelihood } from '../network/likelihood'
import { type Matte, type Picture, type Size } from '../raster/picture'
import { tallyOf } from '../raster/tally'
import { airOf } from './air'
import { edgeBlurOf } from './edgeBlur'
import { type Grain, grainOf } from './grain'
import { hazeOf } from './haze'
import { type Horizon, horizonOf } from './horizon'
import { lightSideOf } from './lightSide'
import { isDirect, type Light, type SkyLight, skyLightOf } from './skyLight'
import { smallLevel } from './smallLevel'
import { sideOf } from './toldSide'
import { type Tones, tonesOf } from './tones'

export interface Measures {
  readonly size: Size
  /** Share of the picture, 0-1. */
  readonly skyShare: number
  /** The row down to which sky is seen, px; 0 where there is none. */
  readonly skyBottom: number
  readonly horizon: Horizon | null
  readonly light: {
    readonly sky: SkyLight
    /** Direct light there is: where it comes from. */ readonly from:
      'left' | 'right' | 'front or behind' | 'everywhere'
    /** −1 (left) to 1 (right), from how things are shaded. */ readonly side: number | null
    /** Of light and sky together. */ readonly kelvin: number
    /** Beside the Planckian line, CIE 1960: green (+) or magenta (−). */ readonly tint: number
  } | null
  readonly grain: Grain | null
  /** Along the sky's boundary: sigma, px. */
  readonly blur: number | null
  /** Share of the air's light in the far land, 0-1. */
  readonly haze: number | null
  /** The colour of the air over the land, linear. */
  readonly air: Light | null
  readonly land: Tones | null
  readonly sky: Tones | null
}

/** @param sky coverage of the sky, of the picture's size @param below what the network takes to lie below the horizon */
export function measure(
  picture: Picture,
  sky: Matte,
  below: Likelihood | null = null,
  check: (progress: number) => void = () => {},
): Measures {
  const { selected: share, bounds: box } = tallyOf(sky),
    grain = grainOf(picture)
  check(0.2)
  const blur = share > 0 ? edgeBlurOf(picture, sky) : null
  check(0.4)
  const horizon = horizonOf(sky, below)
  check(0.5)
  const { small, cover } = smallLevel(picture, sky)
  check(0.7)
  const light = skyLightOf(small, cover.data),
    air = light && airOf(small, cover),
    side = lightSideOf(small, cover)
  const colour = light && temperatureOf(...added(light.ambient, light.direct))
  return {
    size: { width: picture.width, height: picture.height },
    skyShare: share,
    skyBottom: box ? box.y + box.height : 0,
    horizon,
    light: light &&
      colour && {
        sky: light,
        from: isDirect(light) ? (sideOf(side) ?? 'front or behind') : 'everywhere',
        side,
        ...colour,
      },
    grain,
    blur,
    haze: air && hazeOf(small, cover, air),
    air,
    land: tonesOf(small, cover.data, false),
    sky: tonesOf(small, cover.data, true),
  }
}

const added = (a: Light, b: Light): Light => [a[0] + b[0], a[1] + b[1], a[2] + b[2]]
