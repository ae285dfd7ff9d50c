import { describe, expect, it } from 'vitest'
import { fromLinear, toLinear } from '../../colour/srgb'
import { IDENTITY } from '../../raster/affine'
import { picturePyramid } from '../../raster/levels'
import { type Picture } from '../../raster/picture'
import { composeRegion } from '../composeRegion'
import { type AdjustmentOf, parseAdjustment } from './registry'

const SIZE = 96,
  FAR = 48
type Rgb = readonly number[]
/** The far half is seen through haze: light = own × (1 − share) + air × share, linear. */
const AIR: Rgb = [0.6, 0.65, 0.7],
  OTHER: Rgb = [0.5, 0.3, 0.2]
/** Checks of black and colours: something is black in every piece. */
const own = (x: number, y: number): Rgb =>
  (x + y) % 3 === 0 ? [0, 0, 0] : [0.1 + (x % 7) / 20, 0.2 + (y % 5) / 20, 0.1]
const seen = (share: number, air: Rgb): Picture => {
  const data = new Uint8ClampedArray(SIZE * SIZE * 4).fill(255)
  for (let y = 0, i = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++, i += 4)
      own(x, y).forEach((v, c) => {
        const light = y < FAR ? v * (1 - share) + air[c] * share : v
        data[i + c] = Math.round(255 * fromLinear(light))
      })
  return { width: SIZE, height: SIZE, data }
}
const made = (picture: Picture, values: object) =>
  composeRegion(
    [
      {
        kind: 'picture',
        picture: { levels: picturePyramid(picture, true), opaque: true },
        toCanvas: IDENTITY,
        opacity: 1,
      },
      {
        kind: 'adjust',
        adjustment: parseAdjustment({ kind: 'haze', patch: 5, ...values }) as AdjustmentOf<'haze'>,
        opacity: 1,
      },
    ],
    { level: 0, x: 0, y: 0, width: SIZE, height: SIZE },
  )
/** Mean difference of linear light over some rows. */
const off = (a: Picture, b: Picture, from: number, to: number): number => {
  let sum = 0
  for (let i = from * SIZE * 4; i < to * SIZE * 4; i++)
    if (i % 4 < 3) sum += Math.abs(toLinear(a.data[i] / 255) - toLinear(b.data[i] / 255))
  return sum / ((to - from) * SIZE * 3)
}

describe('haze', () => {
  it('takes the new air’s colour where it was, as much as there was; near things stay', () => {
    const photo = seen(0.3, AIR),
      truth = seen(0.3, OTHER),
      after = made(photo, { amount: 0.3, had: 0.3, was: AIR, air: OTHER })
    // A piece's reach from where it ends it is not told apart.
    expect(off(photo, truth, 4, FAR - 12)).toBeGreaterThan(0.08)
    expect(off(after, truth, 4, FAR - 12)).toBeLessThan(0.012)
    expect(off(after, photo, FAR + 12, SIZE)).toBeLessThan(0.001)
  })
  it('can be taken out, and back in', () => {
    const photo = seen(0.3, AIR),
      clear = made(photo, { amount: 0, had: 0.3, was: AIR, air: AIR })
    expect(off(clear, seen(0, AIR), 4, FAR - 12)).toBeLessThan(0.02)
    expect(off(made(photo, { amount: 0.3, had: 0.3, was: AIR, air: AIR }), photo, 0, SIZE)).toBeLessThan(0.001)
  })
  it('more than there was is laid in towards the horizon', () => {
    const clear = seen(0, AIR),
      { data } = made(clear, { amount: 0.5, had: 0, air: AIR, horizon: 40, depth: 20 }),
      light = (x: number, y: number) => toLinear(data[4 * (y * SIZE + x)] / 255)
    // Black points: (x + y) % 3 = 0. Above the horizon half of the air's light, 20 rows below a factor e less.
    expect(light(30, 30)).toBeCloseTo(0.3, 2)
    expect(light(0, 60)).toBeCloseTo(0.3 * Math.exp(-20.5 / 20), 2)
    expect(light(0, 93)).toBeLessThan(0.03)
  })
  it('is laid in along a tilted horizon, to the last pixel of rows of any length', () => {
    const light = (v: number) => toLinear(v / 255)
    for (const width of [61, 62, 63, 64]) {
      const grey: Picture = { width, height: 20, data: new Uint8ClampedArray(width * 80).fill(255) }
      for (let i = 0; i < grey.data.length; i++) if (i % 4 < 3) grey.data[i] = 90
      const { data } = composeRegion(
        [
          {
            kind: 'picture',
            picture: { levels: picturePyramid(grey, true), opaque: true },
            toCanvas: IDENTITY,
            opacity: 1,
          },
          {
            kind: 'adjust',
            adjustment: parseAdjustment({
              kind: 'haze',
              amount: 0.6,
              had: 0,
              air: [0.8, 0.5, 0.2],
              horizon: 5,
              tilt: 10,
              depth: 9,
            }),
            opacity: 1,
          },
        ],
        { level: 0, x: 0, y: 0, width, height: 20 },
        { canvas: grey },
      )
      for (let y = 0; y < 20; y++)
        for (let x = 0; x < width; x++) {
          const below = y + 0.5 - 5 - Math.tan(Math.PI / 18) * (x + 0.5 - width / 2),
            share = 0.6 * Math.exp(-Math.max(0, below) / 9)
          ;[0.8, 0.5, 0.2].forEach((air, c) => {
            const wanted = light(90) * (1 - share) + air * share
            expect(Math.abs(data[4 * (y * width + x) + c] - 255 * fromLinear(wanted))).toBeLessThan(0.6)
          })
        }
    }
  })
  it('does nothing where nothing is asked', () => {
    const photo = seen(0.3, AIR)
    expect([...made(photo, {}).data]).toEqual([...photo.data])
  })
})
