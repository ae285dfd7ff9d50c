import fc from '../../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { fromLinear, toLinear } from '../../colour/srgb'
import { IDENTITY } from '../../raster/affine'
import { picturePyramid } from '../../raster/levels'
import { type Picture } from '../../raster/picture'
import { type Node } from '../nodes'
import { composeRegion } from '../composeRegion'
import { Renderer } from '../renderer'
import { type AdjustmentOf, parseAdjustment } from './registry'

type Rgb = readonly [number, number, number]
const WIDTH = 96,
  HEIGHT = 128
const picture = (at: (x: number, y: number) => Rgb | readonly [...Rgb, number]): Picture => {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4).fill(255)
  for (let i = 0; i < WIDTH * HEIGHT; i++) data.set(at(i % WIDTH, Math.floor(i / WIDTH)), 4 * i)
  return { width: WIDTH, height: HEIGHT, data }
}
const layer = (full: Picture, opaque = true): Node => ({
  kind: 'picture',
  picture: { levels: picturePyramid(full, opaque), opaque },
  toCanvas: IDENTITY,
  opacity: 1,
  key: `${full.data.reduce((sum, v, i) => (sum * 31 + v * (i % 97)) % 1e9, 7)}`,
})
const reflection = (values: object): AdjustmentOf<'reflection'> =>
  parseAdjustment({ kind: 'reflection', horizon: HEIGHT / 2, blur: 0, ...values }) as AdjustmentOf<'reflection'>
const over = (nodes: readonly Node[], values: object): Node[] => [
  ...nodes,
  { kind: 'adjust', adjustment: reflection(values), opacity: 1, key: JSON.stringify(values) },
]
const whole = { level: 0, x: 0, y: 0, width: WIDTH, height: HEIGHT }
const linear = (rgb: Rgb) => rgb.map((v) => toLinear(v / 255))
const at = ({ data }: Picture, x: number, y: number) => [...data.subarray(4 * (y * WIDTH + x), 4 * (y * WIDTH + x) + 3)]
/** Water that is as light as the sky it mirrors, in the lower half; nothing above it. */
const water = (colour: Rgb) =>
  layer(
    picture((_, y) => (y < HEIGHT / 2 ? [0, 0, 0, 0] : colour)),
    false,
  )

describe('the sky in the water', () => {
  it('is the new sky where the water was as light as the old one; what mirrors nothing stays', () => {
    const grey: Rgb = [150, 150, 150],
      sky = layer(picture(() => [210, 120, 60])),
      bright = composeRegion(over([sky, water(grey)], { was: linear(grey) }), whole),
      deep = composeRegion(over([sky, water([30, 30, 30])], { was: linear(grey) }), whole)
    expect(at(bright, 40, 100)).toEqual([210, 120, 60])
    expect(at(bright, 40, 20)).toEqual([210, 120, 60])
    // 30 of 255 is 1.3 % of the light, under 5 % of the sky's 30 %: water that shows its depth alone.
    expect(at(deep, 40, 100)).toEqual([30, 30, 30])
  })
  it('changes nothing when the sky is as it was', () => {
    fc.assert(
      fc.property(
        fc.tuple(...([0, 0, 0].map(() => fc.integer({ min: 20, max: 250 })) as never[])),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (colour: unknown, ripple) => {
          const rgb = colour as Rgb,
            nodes = [
              layer(picture(() => rgb)),
              water(rgb.map((v, c) => Math.round(v * [0.5, 0.7, 0.9][c])) as never as Rgb),
            ],
            before = composeRegion(nodes, whole),
            after = composeRegion(over(nodes, { was: linear(rgb), ripple }), whole)
          expect(Math.max(...after.data.map((v, i) => Math.abs(v - before.data[i])))).toBeLessThanOrEqual(1)
        },
      ),
      { numRuns: 10 },
    )
  })
  it('lies as far below the horizon as the sky above it, and is drawn out towards it by waves', () => {
    // A light stripe that ends 24 rows above the horizon and is 16 rows high.
    const stripe = (y: number) => y >= HEIGHT / 2 - 40 && y < HEIGHT / 2 - 24,
      sky = layer(picture((_, y) => (stripe(y) ? [250, 250, 250] : [60, 60, 60]))),
      white: Rgb = [255, 255, 255],
      rows = (values: object) => {
        const made = composeRegion(over([sky, water(white)], { was: linear(white), ...values }), whole)
        return Array.from({ length: HEIGHT / 2 - 1 }, (_, d) => at(made, 40, HEIGHT / 2 + d)[0])
      },
      still = rows({ ripple: 0 }),
      drawn = rows({ ripple: 1 })
    expect([still[10], still[32], still[55]]).toEqual([60, 250, 60])
    // Its middle, by the half light of its sides.
    const lit = still.flatMap((v, d) => (v > 180 ? [d] : []))
    expect(Math.abs((lit[0] + lit.at(-1)!) / 2 - 32)).toBeLessThanOrEqual(1)
    expect(Math.abs(lit.length - 16)).toBeLessThanOrEqual(2)
    // The mean of all that lies between the mirrored row and the horizon: at 50 rows down 16 of 50 are light.
    const mean = (16 * toLinear(250 / 255) + 34 * toLinear(60 / 255)) / 50
    expect(Math.abs(drawn[50] - 255 * fromLinear(mean))).toBeLessThan(6)
    expect(drawn[20]).toBeLessThan(70)
  })
  it('follows a horizon that leans', () => {
    const sky = layer(picture((_, y) => (y < HEIGHT / 2 - 20 ? [250, 250, 250] : [60, 60, 60]))),
      white: Rgb = [255, 255, 255],
      all = layer(picture(() => white)),
      made = composeRegion(over([sky, all], { was: linear(white), ripple: 0, tilt: 10 }), whole),
      slope = Math.tan((10 * Math.PI) / 180),
      edge = (x: number) => {
        let y = Math.ceil(HEIGHT / 2 + slope * (x - WIDTH / 2)) + 3
        while (at(made, x, y)[0] < 180) y++
        return y
      }
    // A point as far above the line as this one is below it: the mirrored edge leans twice as much.
    const lean = edge(84) - edge(12)
    expect(Math.abs(lean - 2 * 72 * slope)).toBeLessThanOrEqual(3)
  })
  it('mirrors the bottom of its group, not what stands before the sky', () => {
    const sky = layer(picture(() => [200, 120, 60])),
      tree = layer(
        picture((x, y) => (x > 30 && x < 60 && y > 20 && y < HEIGHT / 2 ? [0, 30, 0] : [0, 0, 0, 0])),
        false,
      ),
      white: Rgb = [255, 255, 255],
      made = composeRegion(over([sky, tree, water(white)], { was: linear(white) }), whole)
    expect(at(made, 45, 80)).toEqual(at(made, 10, 80))
  })
  it('tile by tile is the same as all at once', () => {
    const sky = layer(picture((x, y) => [(x * 5) % 256, (y * 3) % 256, (x * y) % 256])),
      nodes = over([sky, water([180, 190, 200])], { was: [0.6, 0.6, 0.6], ripple: 0.6, blur: 3, tilt: 3 }),
      settings = { canvas: { width: WIDTH, height: HEIGHT } },
      renderer = new Renderer(1 << 24)
    renderer.show(nodes, settings)
    const once = renderer.region(whole)
    for (const [x, y] of [
      [0, 64],
      [37, 71],
      [60, 90],
    ]) {
      const part = renderer.region({ level: 0, x, y, width: 30, height: 30 })
      for (let row = 0; row < 30; row++)
        for (let i = 0; i < 30 * 4; i++)
          if (Math.abs(part.data[row * 120 + i] - once.data[((y + row) * WIDTH + x) * 4 + i]) > 1)
            throw new Error(`differs at ${x + (i >> 2)}, ${y + row}`)
    }
  })
})
