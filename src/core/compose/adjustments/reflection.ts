/**
 * Another sky in the water. What water shows is the sky it mirrors, by Fresnel's share at each wave's angle, and its own body: so each pixel tells how
 * much of the sky it mirrored by how light it is against that sky, and that part is exchanged. Waves, and the falling off by angle, are the water's own.
 */
import { coordinate, length, number, numbers } from '../../fields/fields'
import { type Adjustment } from './adjustment'

/** What water shows of its own depth, as a share of the light that falls on it: below that it mirrors nothing. Chosen on ray-traced places (docs/QUALITY.md). */
const BODY = 0.05

/** Mirrors the bottom of its group about the horizon. `was`: the sky that the water mirrored before, in the light the land has now (linear). `ripple` 0-1 draws what is mirrored out towards the horizon, as waves do. */
export const reflection: Adjustment<
  'reflection',
  { amount: number; ripple: number; blur: number; horizon: number; tilt: number; was: readonly number[] }
> = {
  kind: 'reflection',
  values: 'linear',
  // The mirrored place lies anywhere, and is looked at on coarser levels.
  reach: () => Infinity,
  fields: {
    amount: number(0, 1, 1),
    ripple: number(0, 1, 0.75),
    blur: length(20),
    horizon: coordinate('y', 0),
    tilt: number(-45, 45, 0),
    was: numbers(0, 8, 3, [1, 1, 1]),
  },
  rows({ amount, ripple, blur, horizon, tilt, was }, region, canvas, surround) {
    if (amount === 0) return null
    const pixel = 2 ** region.level,
      slope = Math.tan((tilt * Math.PI) / 180),
      first = (horizon + (Math.abs(slope) * canvas.width) / -2) / pixel - region.y
    if (first >= region.height) return null
    const mirrored = surround.mirrored({ horizon, tilt, ripple, blur }),
      [red, green, blue] = was.map((v) => Math.max(1e-3, v)),
      [perRed, perGreen, perBlue] = [1 / red, 1 / green, 1 / blue]
    return (row, y) => {
      if (y + 1 < first) return
      const sky = mirrored(y),
        down = (region.y + y + 0.5) * pixel - horizon
      for (let i = 0, x = 0; i < row.length; i += 4, x++) {
        if (down <= slope * ((region.x + x + 0.5) * pixel - canvas.width / 2)) continue
        let share = row[i] * perRed
        if (row[i + 1] * perGreen < share) share = row[i + 1] * perGreen
        if (row[i + 2] * perBlue < share) share = row[i + 2] * perBlue
        if (share > 1) share = 1
        const part = (amount * sky[i + 3] * (share - BODY)) / (1 - BODY)
        if (part <= 0) continue
        row[i] += part * (sky[i] - red)
        row[i + 1] += part * (sky[i + 1] - green)
        row[i + 2] += part * (sky[i + 2] - blue)
      }
    }
  },
}
