import { expect, it } from 'vitest'
import { fromLinear, LINEAR_OF_BYTE } from '../../colour/srgb'
import { picturePyramid } from '../../raster/levels'
import { IDENTITY } from '../../raster/affine'
import { type Picture } from '../../raster/picture'
import { composeRegion } from '../composeRegion'
import { type Region } from '../region'
import { parseAdjustment } from './registry'

const SIDE = 160,
  RADIUS = 60
/** A matte ball under a light from one side, as far above and before it, and some from everywhere: Lambert's cosine law. */
function ball(toTheRight: number): Picture {
  const data = new Uint8ClampedArray(SIDE * SIDE * 4),
    length = Math.hypot(toTheRight, 1, 1)
  for (let y = 0, i = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++, i += 4) {
      const u = (x + 0.5 - SIDE / 2) / RADIUS,
        v = (y + 0.5 - SIDE / 2) / RADIUS
      if (u * u + v * v > 1) continue
      const facing = Math.max(0, (u * toTheRight - v + Math.sqrt(1 - u * u - v * v)) / length)
      data.set(
        [0.7, 0.5, 0.3].map((albedo) => 255 * fromLinear(albedo * (0.25 + 0.75 * facing))),
        i,
      )
      data[i + 3] = 255
    }
  return { width: SIDE, height: SIDE, data }
}
const whole: Region = { level: 0, x: 0, y: 0, width: SIDE, height: SIDE }
const lit = (picture: Picture, values: object, region = whole) =>
  composeRegion(
    [
      {
        kind: 'picture',
        picture: { levels: picturePyramid(picture, false), opaque: false },
        toCanvas: IDENTITY,
        opacity: 1,
      },
      { kind: 'adjust', adjustment: parseAdjustment({ kind: 'sideLight', ...values }), opacity: 1 },
    ],
    region,
    { canvas: { width: SIDE, height: SIDE } },
  )
/** Mean difference, levels. */
const apart = (a: Picture, b: Picture) => {
  let sum = 0,
    count = 0
  for (let i = 0; i < a.data.length; i++)
    if (i % 4 < 3 && a.data[i | 3] === 255) {
      sum += Math.abs(a.data[i] - b.data[i])
      count++
    }
  return sum / count
}

it('a ball lit from the left comes nearer to the same ball lit from the right; from where it is lit it moves away', () => {
  const left = ball(-1),
    right = ball(1),
    before = apart(left, right)
  expect(apart(lit(left, { stops: 1, angle: 90, radius: RADIUS }), right)).toBeLessThan(0.55 * before)
  expect(apart(lit(left, { stops: 1, angle: -90, radius: RADIUS }), right)).toBeGreaterThan(before)
})
it('an outline that faces the light gets those stops, one that turns away loses them, the middle stays', () => {
  const data = new Uint8ClampedArray(SIDE * SIDE * 4)
  for (let i = 0; i < SIDE * SIDE; i++) if (i % SIDE >= 40 && i % SIDE < 120) data.set([100, 100, 100, 255], 4 * i)
  const { data: out } = lit({ width: SIDE, height: SIDE, data }, { stops: 0.5, angle: 90, radius: 24 }),
    gain = (x: number) => Math.log2(LINEAR_OF_BYTE[out[4 * (80 * SIDE + x)]] / LINEAR_OF_BYTE[100])
  expect(gain(119)).toBeCloseTo(0.5, 1)
  expect(gain(40)).toBeCloseTo(-0.5, 1)
  expect(gain(80)).toBeCloseTo(0, 2)
  // From above it has no outline.
  expect(lit({ width: SIDE, height: SIDE, data }, { stops: 0.5, angle: 0, radius: 24 }).data[4 * (80 * SIDE + 119)]).toBe(100) // prettier-ignore
})
it('a part is what lies there in the whole, at each mip level', () => {
  for (const level of [0, 1, 2]) {
    const side = SIDE >> level,
      all = lit(ball(-1), { stops: 1.2, angle: 60, radius: 50 }, { level, x: 0, y: 0, width: side, height: side }),
      part = { level, x: side >> 2, y: side >> 3, width: side >> 1, height: side >> 1 },
      { data } = lit(ball(-1), { stops: 1.2, angle: 60, radius: 50 }, part)
    for (let y = 0; y < part.height; y++)
      for (let i = 0; i < part.width * 4; i++) {
        const there = all.data[((part.y + y) * side + part.x) * 4 + i]
        expect(Math.abs(data[y * part.width * 4 + i] - there)).toBeLessThan(2)
      }
  }
})
