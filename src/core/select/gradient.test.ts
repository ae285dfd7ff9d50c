import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { parseStep } from '../formats/recipe'
import { RAMP_SHAPES } from '../raster/ramp'
import { type Picture } from '../raster/picture'
import { NoSuchPicture } from './image'
import { NoSuchLayer } from './layer'
import { plainContext, sceneOf } from './onePicture'
import { foldSteps } from './steps'

const WIDTH = 90,
  HEIGHT = 70
const photo: Picture = { width: WIDTH, height: HEIGHT, data: new Uint8ClampedArray(WIDTH * HEIGHT * 4).fill(255) }
const half: Picture = {
  width: 4,
  height: 2,
  data: new Uint8ClampedArray(
    [...Array(2)].flatMap(() =>
      [
        [0, 0, 0, 255],
        [0, 0, 0, 255],
        [255, 255, 255, 255],
        [255, 255, 255, 0],
      ].flat(),
    ),
  ),
}
const scene = sceneOf(photo, 'photo', new Map([['half.png', half]]))
const fold = (...steps: object[]) =>
  foldSteps(
    steps.map((step) => parseStep(step)),
    scene,
    plainContext(),
  ).data
const at = (data: Uint8Array, x: number, y: number) => data[y * WIDTH + x]
const ramp = (shape: string, more: object = {}) =>
  fold({ kind: 'gradient', shape, from: [20, 30], to: [60, 30], ...more })

describe('gradients', () => {
  it('each form by its definition at a few places (SVG 2 for linear and radial)', () => {
    // The middle of pixel x lies at x + 0.5: 40 px from 20 on.
    expect([0, 29, 49, 80].map((x) => at(ramp('linear'), x, 5))).toEqual([0, 61, 188, 255])
    expect(Math.abs(at(ramp('radial'), 39, 29) - at(ramp('radial'), 19, 49))).toBeLessThanOrEqual(4)
    expect(at(ramp('radial'), 80, 60)).toBe(255)
    expect(at(ramp('mirrored'), 9, 9)).toBe(at(ramp('mirrored'), 30, 50))
    expect(at(ramp('rhombus'), 45, 52)).toBe(255)
    expect(at(ramp('rhombus'), 29, 39)).toBeCloseTo(121, -1)
    // Clockwise from the direction of `to`: right is 0, down a quarter, left a half, up three quarters.
    expect(
      [
        [60, 30],
        [19, 60],
        [0, 29],
        [19, 0],
      ].map(([x, y]) => Math.round(at(ramp('conic'), x, y) / 64)),
    ).toEqual([0, 1, 2, 3])
  })
  it('stops are met at their places, level beyond; turned round it is the complement', () => {
    const steps = ramp('linear', {
      stops: [
        [0.25, 1],
        [0.75, 0],
      ],
    })
    expect([at(steps, 22, 3), at(steps, 39, 3), at(steps, 70, 3)]).toEqual([255, expect.closeTo(131, -1), 0])
    const there = ramp('linear'),
      back = ramp('linear', { from: [60, 30], to: [20, 30] })
    for (let i = 0; i < there.length; i += 13) expect(Math.abs(there[i] + back[i] - 255)).toBeLessThanOrEqual(1)
  })
  it('any ends make a matte between 0 and 255, also when they lie in one place', () => {
    const place = fc.tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: -500, max: 500 }))
    fc.assert(
      fc.property(fc.constantFrom(...RAMP_SHAPES), place, place, (shape, from, to) => {
        expect(fold({ kind: 'gradient', shape, from, to })).toHaveLength(WIDTH * HEIGHT)
      }),
      { numRuns: 40 },
    )
    expect(at(fold({ kind: 'gradient', shape: 'radial', from: [20, 30], to: [20, 30] }), 50, 50)).toBe(255)
  })
})

describe('mask pictures', () => {
  it('are stretched over the canvas by brightness or alpha, inverted like any step', () => {
    expect([10, 35, 55, 80].map((x) => at(fold({ kind: 'image', asset: 'half.png' }), x, 30) > 127)).toEqual([
      false,
      false,
      true,
      false,
    ])
    expect([10, 55, 85].map((x) => at(fold({ kind: 'image', asset: 'half.png', use: 'alpha' }), x, 30) > 127)).toEqual([
      true,
      true,
      false,
    ])
    expect(at(fold({ kind: 'image', asset: 'half.png', invert: true }), 10, 30)).toBeGreaterThan(200)
  })
  it('at their own size lie in the corner, moved, scaled and turned about their middle; outside is hidden or shown', () => {
    const own = fold({ kind: 'image', asset: 'half.png', fit: 'none', x: 30, y: 20 })
    expect([at(own, 32, 20), at(own, 31, 20), at(own, 50, 50)]).toEqual([255, 0, 0])
    expect(at(fold({ kind: 'image', asset: 'half.png', fit: 'none', outside: 'shown' }), 50, 50)).toBe(255)
    expect(at(fold({ kind: 'image', asset: 'half.png', fit: 'none', x: 30, y: 20, rotation: 180 }), 31, 20)).toBe(255)
  })
  it('one that is not here, and a layer where there are none, are refused in a sentence', () => {
    expect(() => fold({ kind: 'image', asset: 'gone.png' })).toThrow(NoSuchPicture)
    expect(() => fold({ kind: 'layer', layer: 'x' })).toThrow(NoSuchLayer)
  })
})
