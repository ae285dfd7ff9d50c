/** What a photo measures, in words and figures for the screen. */
import { type Measures } from '@/core/match/measure'
import { type PhotoWater } from '@/engine/newSky'

/** Daylight lies so far above the Planckian line (CIE 15:2004), and a light looks green or magenta so far beside that (common practice), CIE 1960. */
const DAYLIGHT = 0.003,
  SEEN = 0.006

export function toldMeasures(
  { size, horizon, light, grain, blur, haze, skyShare }: Measures,
  water: PhotoWater,
): readonly (readonly [string, string])[] {
  const percent = (v: number) => `${(100 * v).toFixed(v < 0.1 ? 1 : 0)} %`
  const tint = light
    ? light.tint > DAYLIGHT + SEEN
      ? ', greenish'
      : light.tint < DAYLIGHT - SEEN
        ? ', magenta'
        : ''
    : ''
  return [
    ['Sky', percent(skyShare)],
    ['Water', water.is === 'none' ? 'not seen' : `${water.is === 'perhaps' ? 'perhaps ' : ''}${percent(water.share)}`],
    ['Horizon', horizon ? `${horizon.seen ? '' : 'about '}${percent(horizon.y / size.height)} down` : 'not seen'],
    ['Tilt', horizon?.seen ? `${horizon.tilt.toFixed(1)}°` : 'not seen'],
    ['Light from', light?.from ?? 'not seen'],
    ['Colour of light', light ? `${Math.round(light.kelvin / 100) * 100} K${tint}` : 'not seen'],
    ['Grain', grain ? `${grain.deviation.toFixed(1)} levels` : 'not seen'],
    ['Blur at the sky', blur === null ? 'not seen' : `${blur.toFixed(1)} px`],
    ['Haze', haze === null ? 'not seen' : percent(haze)],
  ]
}
