import { describe, expect, it } from 'vitest'
import { type Picture } from '../../raster/picture'
import { sceneOf } from '../onePicture'
import { fittingTolerance } from './index'

const WIDTH = 240,
  HEIGHT = 160

/** A disc before another tone, both with grain of up to `grain` levels to either side. */
function disc(inside: number, outside: number, grain: number): Picture {
  let seed = 7
  const random = () => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 2 ** 32,
    data = new Uint8ClampedArray(WIDTH * HEIGHT * 4)
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const away = Math.hypot((i % WIDTH) - 120, Math.floor(i / WIDTH) - 80)
    const level = (away < 50 ? inside : outside) + (2 * random() - 1) * grain
    data.set([level, level, level, 255], i * 4)
  }
  return { width: WIDTH, height: HEIGHT, data }
}
const params = { tolerance: 32, contiguous: true, patch: 3, metric: 'channel', antialias: true, sample: 'all' } as const
const fit = (picture: Picture, at: readonly [number, number], contiguous = true) =>
  fittingTolerance(sceneOf(picture), { ...params, contiguous, at })

describe('the tolerance a first pick takes from the picture', () => {
  it.each([
    [120, 180, 4],
    [120, 145, 4],
    [30, 220, 12],
    [128, 150, 6],
  ])('lies above the grain and below the step to what is beside it: %i on %i, grain %i', (inside, outside, grain) => {
    const tolerance = fit(disc(inside, outside, grain), [120.5, 80.5])
    // A pixel of the pick differs from its mean by up to the grain; the other side begins at the step less the grain.
    expect(tolerance).toBeGreaterThanOrEqual(grain - 1)
    expect(tolerance).toBeLessThan(outside - inside - grain + 1)
  })
  it('is the same for what surrounds, and everywhere in the picture', () => {
    expect(fit(disc(120, 180, 4), [10.5, 10.5])).toBeLessThan(56)
    expect(fit(disc(120, 180, 4), [120.5, 80.5], false)).toBeLessThan(56)
  })
  it('is the same of a large picture, from a share of its pixels', () => {
    const small = disc(120, 180, 4),
      large: Picture = { width: WIDTH * 6, height: HEIGHT * 6, data: new Uint8ClampedArray(WIDTH * HEIGHT * 36 * 4) }
    for (let y = 0; y < large.height; y++)
      for (let x = 0; x < large.width; x++) {
        const from = 4 * (Math.floor(y / 6) * WIDTH + Math.floor(x / 6))
        large.data.set(small.data.subarray(from, from + 4), 4 * (y * large.width + x))
      }
    expect(Math.abs(fit(large, [720, 480]) - fit(small, [120, 80]))).toBeLessThanOrEqual(4)
  })
  it('has an answer where nothing rests, and outside the picture', () => {
    const ramp: Picture = { width: 256, height: 4, data: new Uint8ClampedArray(256 * 4 * 4) }
    for (let i = 0; i < 1024; i++) ramp.data.set([i % 256, i % 256, i % 256, 255], 4 * i)
    expect(fit(ramp, [128.5, 2.5])).toBeGreaterThanOrEqual(8)
    expect(fit(ramp, [128.5, 2.5])).toBeLessThanOrEqual(64)
    expect(fit(ramp, [-5, 2])).toBe(params.tolerance)
  })
})
