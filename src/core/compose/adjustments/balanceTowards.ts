import { D65, RGB_TO_XYZ, times, uvOf } from '../../colour/adaptation'
import { TINT_REACH, USUAL_WHITE, whiteAt } from './whiteBalance'

/** The balance that gives grey the colour of linear red, green, blue, as far as its two values go: -1 to 1. */
export function balanceTowards(red: number, green: number, blue: number): { temperature: number; tint: number } {
  const [u, v] = uvOf(times(RGB_TO_XYZ, [red, green, blue])),
    [greyU, greyV] = uvOf(D65),
    [usualU, usualV] = uvOf(USUAL_WHITE),
    // Along the daylight line u grows with the mired; across it only v changes.
    wantedU = usualU + u - greyU
  let [cool, warm] = [-1, 1]
  for (let n = 0; n < 40; n++) {
    const middle = (cool + warm) / 2
    if (uvOf(whiteAt(middle, 0))[0] < wantedU) cool = middle
    else warm = middle
  }
  const temperature = (cool + warm) / 2,
    across = usualV + v - greyV - uvOf(whiteAt(temperature, 0))[1]
  return { temperature, tint: Math.max(-1, Math.min(1, -across / TINT_REACH)) }
}
