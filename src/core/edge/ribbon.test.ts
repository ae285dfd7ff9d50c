import { describe, expect, it } from 'vitest'
import { type Matte, type Picture } from '../raster/picture'
import { doubtfulSpots } from './doubts'
import { placeOn } from './placeOn'
import { ribbonPicture, unroll } from './ribbon'

const WIDTH = 300,
  HEIGHT = 240
const matteOf = (coverage: (x: number, y: number) => number): Matte => ({
  width: WIDTH,
  height: HEIGHT,
  data: Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) =>
    Math.max(0, Math.min(255, Math.round(255 * coverage((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5)))),
  ),
})
const disc =
  (cx: number, cy: number, r: number, soft = 1) =>
  (x: number, y: number) =>
    (r - Math.hypot(x - cx, y - cy)) / soft + 0.5
const paint = (at: (x: number, y: number) => readonly number[]): Picture => {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4)
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    data.set(at((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5), 4 * i)
    data[4 * i + 3] = 255
  }
  return { width: WIDTH, height: HEIGHT, data }
}

describe('the edge ribbon', () => {
  it('is as long as the boundary: a circle of radius 80 within half a percent, its normals along the radius', () => {
    const ribbon = unroll(matteOf(disc(150, 120, 80)))
    expect(Math.abs(ribbon.length / (2 * Math.PI * 80) - 1)).toBeLessThan(0.005)
    for (let k = 0; k < ribbon.length; k += 17) {
      const [x, y] = placeOn(ribbon, k, 10)
      expect(Math.hypot(x - 150, y - 120)).toBeCloseTo(90, 0)
    }
  })
  it('has several contours one after another, the longest first; specks are left out', () => {
    const ribbon = unroll(
      matteOf((x, y) => Math.max(disc(70, 120, 40)(x, y), disc(220, 120, 60)(x, y), disc(150, 20, 2)(x, y))),
    )
    expect(ribbon.starts).toHaveLength(3)
    expect(ribbon.starts[1]).toBeGreaterThan(ribbon.starts[2] - ribbon.starts[1])
    expect(placeOn(ribbon, 5, 0)[0]).toBeGreaterThan(150)
    expect(placeOn(ribbon, ribbon.starts[1] + 5, 0)[0]).toBeLessThan(150)
  })
  it('shows the outside above and the inside below, on any backing', () => {
    const matte = matteOf(disc(150, 120, 80)),
      picture = paint((x, y) => (Math.hypot(x - 150, y - 120) < 80 ? [200, 40, 40] : [40, 40, 200])),
      ribbon = unroll(matte)
    const view = { from: 100, step: 1, width: 40, height: 32 },
      at = (shown: Picture, v: number) => [...shown.data.subarray((v * 40 + 20) * 4, (v * 40 + 20) * 4 + 3)]
    const green = ribbonPicture(ribbon, picture, matte, { ...view, backing: [0, 255, 0] })
    expect(at(green, 4)).toEqual([0, 255, 0])
    expect(at(green, 28)).toEqual([200, 40, 40])
    expect(at(ribbonPicture(ribbon, picture, matte, { ...view, backing: 'picture' }), 4)).toEqual([40, 40, 200])
    expect(at(ribbonPicture(ribbon, picture, matte, { ...view, backing: 'matte' }), 28)).toEqual([255, 255, 255])
  })
  it('an empty and a full matte have none', () => {
    expect(unroll(matteOf(() => 0)).length).toBe(0)
    expect(
      ribbonPicture(
        unroll(matteOf(() => 0)),
        paint(() => [1, 2, 3]),
        matteOf(() => 0),
        { from: 0, step: 1, width: 4, height: 4, backing: 'checks' },
      ).data,
    ).toHaveLength(64)
  })
})

describe('doubtful spots', () => {
  const sharp = paint((x, y) => (Math.hypot(x - 150, y - 120) < 80 ? [200, 60, 40] : [60, 120, 200]))
  it('a good edge has none', () => {
    const matte = matteOf(disc(150, 120, 80))
    expect(doubtfulSpots(unroll(matte), sharp, matte)).toEqual([])
  })
  it('soft over a hard edge is one, only where it is', () => {
    const matte = matteOf((x, y) => disc(150, 120, 80, x > 150 && Math.abs(y - 120) < 30 ? 16 : 1)(x, y)),
      ribbon = unroll(matte),
      spots = doubtfulSpots(ribbon, sharp, matte)
    expect(spots.map((s) => s.why)).toEqual(['soft'])
    const [x, y] = placeOn(ribbon, (spots[0].from + spots[0].to) / 2, 0)
    expect(x).toBeGreaterThan(215)
    expect(Math.abs(y - 120)).toBeLessThan(12)
  })
  it('a matte that is four px too wide takes in the backdrop', () => {
    const matte = matteOf((x, y) => disc(150, 120, y < 120 && Math.abs(x - 150) < 40 ? 84 : 80)(x, y)),
      spots = doubtfulSpots(unroll(matte), sharp, matte)
    expect(spots.length).toBeGreaterThan(0)
    expect(new Set(spots.map((s) => s.why))).toEqual(new Set(['backdrop']))
  })
  it('a slanted edge without anti-aliasing has stairs', () => {
    const matte = matteOf((x, y) => (disc(150, 120, 80)(x, y) > 0.5 ? 1 : 0)),
      spots = doubtfulSpots(unroll(matte), sharp, matte)
    expect(spots.length).toBeGreaterThan(3)
    expect(spots.every((s) => s.why === 'stairs')).toBe(true)
  })
})
