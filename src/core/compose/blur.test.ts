import { describe, expect, it } from 'vitest'
import sharp from 'sharp'
import { toLinear } from '../colour/srgb'
import { IDENTITY } from '../raster/affine'
import { picturePyramid } from '../raster/levels'
import { type Picture } from '../raster/picture'
import { parseAdjustment } from './adjustments/registry'
import { type Node } from './nodes'
import { composeRegion } from './composeRegion'
import { Renderer } from './renderer'

const SIDE = 300
const draw = (value: (x: number, y: number) => number): Picture => {
  const data = new Uint8ClampedArray(SIDE * SIDE * 4)
  for (let y = 0, i = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++, i += 4) {
      const v = value(x, y)
      data.set([v, v, v, 255], i)
    }
  return { width: SIDE, height: SIDE, data }
}
const nodes = (picture: Picture, adjustment: object): Node[] => [
  { kind: 'picture', picture: { levels: picturePyramid(picture, true), opaque: true }, toCanvas: IDENTITY, opacity: 1 },
  { kind: 'adjust', adjustment: parseAdjustment(adjustment), opacity: 1 },
]
const blurred = (picture: Picture, adjustment: object) =>
  composeRegion(nodes(picture, adjustment), { level: 0, x: 0, y: 0, width: SIDE, height: SIDE }).data
const boxes = draw((x, y) =>
  (x > 60 && x < 140 && y > 50 && y < 220) || (x - 210) ** 2 + (y - 150) ** 2 < 900 ? 230 : 25,
)

describe('blurs of what lies below', () => {
  it.each([1, 2.5, 6, 15])('a Gaussian of sigma %d agrees with libvips (sharp) within two steps', async (sigma) => {
    const reference = await sharp(boxes.data, { raw: { width: SIDE, height: SIDE, channels: 4 } })
      .blur({ sigma, precision: 'float', minAmplitude: 0.001 })
      .raw()
      .toBuffer()
    const ours = blurred(boxes, { kind: 'gaussianBlur', radius: 2 * sigma })
    let worst = 0
    for (let i = 0; i < ours.length; i += 4) worst = Math.max(worst, Math.abs(ours[i] - reference[i]))
    expect(worst).toBeLessThanOrEqual(2)
  })
  it.each([
    [4, 0],
    [9, 1],
    [20, 4],
    [45, 8],
  ])(
    'a spot under a disc of radius %d keeps its light, evenly in the middle, and none beyond the radius',
    (radius, half) => {
      const out = blurred(
        draw((x, y) => (Math.abs(x - 150) <= half && Math.abs(y - 150) <= half ? 255 : 0)),
        { kind: 'discBlur', radius },
      )
      let sum = 0
      for (let i = 0; i < out.length; i += 4) sum += toLinear(out[i] / 255) // discBlur works on light
      expect(sum / (2 * half + 1) ** 2).toBeGreaterThan(0.9) // mip levels average encoded values: a white spot on black loses a little
      expect(sum / (2 * half + 1) ** 2).toBeLessThan(1.1)
      const at = (x: number) => out[(150 * SIDE + 150 + Math.round(x)) * 4]
      expect(at(radius + 1.5 * half + 4)).toBe(0)
      expect(Math.abs(at(0) - at((radius - 1.5 * half) * 0.7))).toBeLessThanOrEqual(2)
    },
  )
  it('flat stays flat at any radius, to the canvas’s edge', () => {
    const flat = draw(() => 117)
    for (const adjustment of [
      { kind: 'gaussianBlur', radius: 7 },
      { kind: 'gaussianBlur', radius: 90 },
      { kind: 'gaussianBlur', radius: 1e6 },
      { kind: 'discBlur', radius: 11 },
      { kind: 'discBlur', radius: 400 },
    ])
      expect(new Set(blurred(flat, adjustment).filter((_, i) => i % 4 === 0))).toEqual(new Set([117]))
  })
  it('tile by tile is the same as all at once, with several effects upon each other', () => {
    const stack: Node[] = [
      ...nodes(boxes, { kind: 'gaussianBlur', radius: 14 }),
      { kind: 'adjust', adjustment: parseAdjustment({ kind: 'sharpen', amount: 1, radius: 5 }), opacity: 0.7 },
      { kind: 'adjust', adjustment: parseAdjustment({ kind: 'discBlur', radius: 30 }), opacity: 0.5 },
    ].map((node, i) => ({ ...node, key: `${i}` }) as Node)
    const once = composeRegion(stack, { level: 0, x: 0, y: 0, width: SIDE, height: SIDE }).data
    const renderer = new Renderer(64 << 20)
    renderer.show(stack, { canvas: { width: SIDE, height: SIDE } })
    for (const [x, y] of [
      [0, 0],
      [137, 91],
      [256, 255],
      [299, 299],
    ])
      expect(
        Math.abs(renderer.region({ level: 0, x, y, width: 1, height: 1 }).data[0] - once[(y * SIDE + x) * 4]),
        `the pixel at ${x}, ${y}`,
      ).toBeLessThanOrEqual(1)
    for (const [x, y] of [
      [0, 0],
      [256, 0],
      [0, 256],
      [256, 256],
    ]) {
      const tile = renderer.region({ level: 0, x, y, width: Math.min(256, SIDE - x), height: Math.min(256, SIDE - y) })
      for (let ty = 0; ty < tile.height; ty++)
        for (let tx = 0; tx < tile.width; tx++)
          expect(
            Math.abs(tile.data[(ty * tile.width + tx) * 4] - once[((y + ty) * SIDE + x + tx) * 4]),
          ).toBeLessThanOrEqual(1)
    }
  })
})
