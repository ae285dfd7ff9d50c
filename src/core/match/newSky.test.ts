import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { fromLinear } from '../colour/srgb'
import { composeRegion } from '../compose/composeRegion'
import { apply } from '../raster/affine'
import { fitOf } from './fit'
import { grainOf } from './grain'
import { measure } from './measure'
import { newSkyOf, skyPlacement } from './newSky'
import { skyPictureOf, skyView } from './readSkyPicture'
import { WIDTH, HEIGHT, type Rgb, picture, matte, all, normal } from '../../../tests/setups/match'

describe('a new sky', () => {
  it('covers everything above the lowest sky, its horizon on the photo’s wherever its picture reaches far enough', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 50, max: 6000 }),
        fc.integer({ min: 50, max: 6000 }),
        fc.integer({ min: 50, max: 6000 }),
        fc.integer({ min: 50, max: 6000 }),
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        fc.double({ min: 0.3, max: 1, noNaN: true }),
        fc.double({ min: 0.02, max: 1, noNaN: true }),
        fc.boolean(),
        (width, height, skyWidth, skyHeight, at, skyAt, low, mirrored) => {
          const light = { ambient: [1, 1, 1], direct: [0, 0, 0], open: 0 } as const,
            sky = {
              version: 1,
              air: [1, 1, 1],
              size: { width: skyWidth, height: skyHeight },
              horizonY: skyAt * skyHeight,
              light,
              side: null,
              grain: 0,
              blur: null,
            } as const,
            lowest = low * height,
            placed = skyPlacement({ width, height }, { y: at * height, tilt: 0, seen: false }, sky, lowest, mirrored)
          const corners = [apply(placed, 0, 0), apply(placed, skyWidth, skyHeight)],
            [left, right] = corners.map(([x]) => x).sort((a, b) => a - b),
            [top, bottom] = corners.map(([, y]) => y)
          expect(left).toBeLessThanOrEqual(1e-6)
          expect(right).toBeGreaterThanOrEqual(width - 1e-6)
          expect(top).toBeLessThanOrEqual(1e-6)
          expect(bottom).toBeGreaterThanOrEqual(Math.max(lowest, at * height) - 1e-6 * height)
          const [, horizon] = apply(placed, 0, sky.horizonY)
          expect(horizon).toBeGreaterThanOrEqual(at * height - 1e-6 * height)
          if (skyAt === 1 && low <= at) expect(horizon).toBeCloseTo(at * height, 6)
        },
      ),
    )
  })
  it('is mirrored when its sun stands on the other side than the photo’s, and only then', () => {
    const blue = picture((x) => [60 + x / 4, 100 + x / 4, 170 + x / 4]),
      sky = skyPictureOf(blue, all, blue)!
    expect(sky.side).toBe('right')
    const photo = measure(
      picture((_, y) => (y < 60 ? [70, 125, 200] : [80, 70, 60])),
      matte((_, y) => y < 60),
    )
    for (const from of ['left', 'right', 'everywhere'] as const) {
      const plan = newSkyOf({ ...photo, light: { ...photo.light!, from } }, sky)!
      expect(plan.mirrored).toBe(from === 'left')
      expect(Math.sign(plan.placement[0])).toBe(from === 'left' ? -1 : 1)
    }
  })
  it('gets the grain that it lacks: its own and what is added are the photo’s, within 15 %', () => {
    for (const [wanted, own] of [
      [4, 0],
      [4, 2.5],
      [2, 0],
    ]) {
      const noisy = (deviation: number) =>
          picture(
            (x, y) => [0, 1, 2].map((c) => 150 + 10 * c + deviation * normal(x, y, own ? c : 0)) as unknown as Rgb,
          ),
        photo = measure(
          picture((x, y) =>
            y < 90 ? ([0, 1, 2].map((c) => 150 + 10 * c + wanted * normal(x, y, 0)) as unknown as Rgb) : [80, 70, 60],
          ),
          matte((_, y) => y < 90),
        ),
        skyOwn = noisy(own),
        plan = newSkyOf(photo, skyPictureOf(skyOwn, all, skyOwn)!)!,
        made = composeRegion(
          [
            {
              kind: 'picture',
              picture: { levels: [skyOwn], opaque: true },
              toCanvas: [1, 0, 0, 1, 0, 0],
              opacity: 1,
            },
            { kind: 'adjust', adjustment: plan.grain!, opacity: 1 },
          ],
          { level: 0, x: 0, y: 0, width: WIDTH, height: HEIGHT },
        )
      expect(Math.abs(grainOf(made)!.deviation / photo.grain!.deviation - 1), `${wanted} over ${own}`).toBeLessThan(
        0.15,
      )
    }
    const even = picture(() => [80, 90, 160]),
      calm = measure(
        picture((_, y) => (y < 60 ? [70, 125, 200] : [80, 70, 60])),
        matte((_, y) => y < 60),
      )
    expect(newSkyOf(calm, skyPictureOf(even, all, even)!)!.grain).toBeNull()
  })
  it('gets the blur that it lacks where it is laid, and none where it is as soft', () => {
    const photo = {
        ...measure(
          picture((_, y) => (y < 60 ? [70, 125, 200] : [80, 70, 60])),
          matte((_, y) => y < 60),
        ),
        blur: 2,
      },
      even = picture(() => [80, 90, 160]),
      sky = skyPictureOf(even, all, even)!
    expect(newSkyOf(photo, sky)!.blur).toBeNull()
    // Laid in at its own size: the variances' difference, and the radius is two sigmas.
    expect(newSkyOf(photo, { ...sky, blur: 1.2 })!.blur!.radius).toBeCloseTo(2 * Math.sqrt(2 ** 2 - 1.2 ** 2), 1)
    expect(newSkyOf(photo, { ...sky, blur: 1.95 })!.blur).toBeNull()
    expect(newSkyOf({ ...photo, blur: null }, { ...sky, blur: 1 })!.blur).toBeNull()
  })
  it('is not planned for a photo without sky', () => {
    const bare = measure(
      picture(() => [80, 70, 60]),
      matte(() => false),
    )
    const even = picture(() => [80, 90, 160])
    expect(newSkyOf(bare, skyPictureOf(even, all, even)!)).toBeNull()
  })
  it('’s picture is looked at over land; its size is that of the whole picture', () => {
    const large = picture((_, y) => [90, 140 + y / 20, 210], 1400, 1000),
      { small, overLand } = skyView(large)
    expect(small.width * small.height).toBeLessThanOrEqual(600_000)
    expect(overLand.height).toBeGreaterThan(1.3 * small.height)
    const half = matte((_, y) => y < small.height / 2, overLand.width, overLand.height),
      sky = skyPictureOf(small, half, large)!
    expect(sky.size).toEqual({ width: 1400, height: 1000 })
    expect(Math.abs(sky.horizonY - 500)).toBeLessThan(5)
  })
})

describe('the fit of a sky', () => {
  const land: Rgb = [80, 70, 60],
    view = (sky: Rgb) =>
      measure(
        picture((_, y) => (y < 60 ? sky : land)),
        matte((_, y) => y < 60),
      ),
    plain = (colour: Rgb, width = WIDTH, height = HEIGHT) => {
      const own = picture(() => colour, width, height)
      return skyPictureOf(
        own,
        matte(() => true, width, height),
        own,
      )!
    },
    scaled = (colour: Rgb, by: number): Rgb => colour.map((v) => 255 * fromLinear(by * (v / 255) ** 2.2)) as never
  it('is whole for the sky a photo has, and tells what it is off by', () => {
    const dull: Rgb = [150, 156, 165],
      photo = view(dull)
    expect(fitOf(photo, plain(dull))).toEqual({
      score: 100,
      reason: 'fits at the horizon',
      mirrored: false,
    })
    expect(fitOf(photo, plain(scaled(dull, 0.25)))!.reason).toBe('darker at the horizon')
    expect(fitOf(photo, plain([250, 252, 255]))!.reason).toBe('lighter at the horizon')
    expect(fitOf(photo, plain([225, 150, 90]))!.reason).toBe('warmer at the horizon')
    expect(fitOf(photo, plain([110, 155, 225]))!.reason).toBe('cooler at the horizon')
    expect(fitOf(photo, plain(dull, 60, 40))!.reason).toBe('small: would be soft')
    expect(fitOf(view(land), plain(dull))!.score).toBeLessThan(100)
  })
  it('never gets better by being farther off', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0.2, max: 0.95, noNaN: true }),
        (by, more) => {
          const photo = view([170, 175, 180]),
            near = fitOf(photo, plain(scaled([170, 175, 180], by)))!,
            far = fitOf(photo, plain(scaled([170, 175, 180], by * more)))!
          expect(far.score).toBeLessThanOrEqual(near.score + 2)
        },
      ),
      { numRuns: 12 },
    )
  })
  it('needs a photo with a sky', () => {
    const bare = measure(
      picture(() => land),
      matte(() => false),
    )
    expect(fitOf(bare, plain([200, 200, 210]))).toBeNull()
  })
})
