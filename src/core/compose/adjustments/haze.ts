/**
 * Haze: what is seen through it keeps a share of its own light and takes the rest from the air. Where haze lies is seen in the picture: in clear air
 * something in every piece of it is all but black in one channel. The old air's light is taken out and the new air's put in; more than there was is laid
 * in by how near a thing is to the horizon. Source: He, Sun and Tang, "Single image haze removal using dark channel prior", CVPR 2009, equations 1, 11 and 16.
 */
import { coordinate, length, number, numbers } from '../../fields/fields'
import { type Adjustment } from './adjustment'

/** Less of a thing's own light than this is never left: what haze hid is not there to be brought back. */
const LEAST = 0.1
/** So much of what looks like haze is taken for it, as that paper does (the value from memory): the darkest in clear air is not quite black. */
const OMEGA = 0.95

/**
 * `had`: the share of the air's light that there is at most, `was` its colour (linear); `amount` and `air`: what there will be. `patch`: half the side of
 * the pieces that are looked at, px. Beyond `had` it falls off below the horizon, by a factor e every `depth` px.
 */
export const haze: Adjustment<
  'haze',
  {
    amount: number
    had: number
    was: readonly number[]
    air: readonly number[]
    patch: number
    horizon: number
    tilt: number
    depth: number
  }
> = {
  kind: 'haze',
  values: 'linear',
  reach: ({ patch }) => 2 * patch,
  fields: {
    amount: number(0, 1, 0),
    had: number(0, 1, 0),
    was: numbers(0, 8, 3, [1, 1, 1]),
    air: numbers(0, 8, 3, [1, 1, 1]),
    patch: length(60),
    horizon: coordinate('y', 0),
    tilt: number(-45, 45, 0),
    depth: length(200),
  },
  kernel({ amount, had, was, air, patch, horizon, tilt, depth }, region, canvas, surround) {
    if (amount === 0 && had === 0) return null
    const { width } = region,
      pixel = 2 ** region.level,
      slope = Math.tan((tilt * Math.PI) / 180),
      fall = -1 / Math.max(1, depth),
      [red, green, blue] = was.map((v) => Math.max(1e-3, v)),
      per = [1 / red, 1 / green, 1 / blue],
      more = Math.max(0, amount - had),
      stays = had > 0 ? Math.min(1, amount / had) : 0,
      least = had > 0 ? surround.least(patch, per) : null
    /** How much of what is laid in there is so far down in a row. */
    const far = (x: number, down: number): number => {
      const below = down - slope * ((region.x + x + 0.5) * pixel - canvas.width / 2)
      return below > 0 ? more * Math.exp(below * fall) : more
    }
    return {
      table: {
        // The kernel looks at four at a time.
        floats: 2 * width + 3,
        // The darkest of every piece, and what is laid in.
        fill(into: Float32Array, y: number) {
          const down = (region.y + y + 0.5) * pixel - horizon,
            piece = least?.(y)
          if (piece) into.set(piece)
          else into.fill(0, 0, width)
          if (slope === 0 || more === 0) into.fill(more && far(0, down), width, 2 * width)
          else for (let x = 0; x < width; x++) into[width + x] = far(x, down)
        },
      },
      run: (kernels, at, count, table) =>
        kernels.hazeRow(at, count, table, OMEGA, had, stays, LEAST, red, green, blue, air[0], air[1], air[2]),
    }
  },
}
