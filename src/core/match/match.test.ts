import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { fromLinear } from '../colour/srgb'
import { composeRegion } from '../compose/renderer'
import { gaussianBlur } from '../raster/gaussian'
import { apply } from '../raster/affine'
import { type Matte, type Picture } from '../raster/picture'
import { edgeBlurOf } from './edgeBlur'
import { fitOf } from './fit'
import { fittingReach } from './fittingReach'
import { grainOf } from './grain'
import { hazeOf } from './haze'
import { horizonOf } from './horizon'
import { lightSideOf } from './lightSide'
import { measure } from './measure'
import { newSkyOf, skyPlacement } from './newSky'
import { skyPictureOf, skyView } from './readSkyPicture'
import { skyLightOf } from './skyLight'

const WIDTH = 240,
  HEIGHT = 160
type Rgb = readonly [number, number, number]
const picture = (colour: (x: number, y: number) => Rgb, width = WIDTH, height = HEIGHT): Picture => {
  const data = new Uint8ClampedArray(width * height * 4)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const [r, g, b] = colour(x, y)
      data[i] = r
      data[i + 1] = g
      data[i + 2] = b
      data[i + 3] = 255
    }
  return { width, height, data }
}
const matte = (on: (x: number, y: number) => boolean, width = WIDTH, height = HEIGHT): Matte => ({
  width,
  height,
  data: Uint8Array.from({ length: width * height }, (_, i) => (on(i % width, Math.floor(i / width)) ? 255 : 0)),
})
const all = matte(() => true)
/** A standard normal deviate of a place (Box and Muller, 1958, on a hash of it). */
const normal = (x: number, y: number, c: number): number => {
  const share = (k: number) => {
    let v = Math.imul(x + 1, 0x9e3779b1) ^ Math.imul(y + 1, 0x85ebca6b) ^ Math.imul(c * 2 + k + 1, 0xc2b2ae35)
    v = Math.imul(v ^ (v >>> 15), 0x2c1b3c6d)
    v = Math.imul(v ^ (v >>> 12), 0x297a2d39)
    return ((v ^ (v >>> 15)) >>> 0) / 2 ** 32
  }
  return Math.sqrt(-2 * Math.log(share(0) + 1e-9)) * Math.cos(2 * Math.PI * share(1))
}

describe('grain', () => {
  it('is told within 10 % on a slope with known noise', () => {
    for (const deviation of [1, 2, 4, 8]) {
      const noisy = picture(
        (x, y) => [0, 1, 2].map((c) => 90 + x / 4 + y / 8 + deviation * normal(x, y, c)) as unknown as Rgb,
      )
      expect(grainOf(noisy)!.deviation / deviation).toBeGreaterThan(0.9)
      // Rounding to whole levels adds a twelfth to the variance.
      expect(grainOf(noisy)!.deviation / Math.hypot(deviation, Math.sqrt(1 / 12))).toBeLessThan(1.1)
    }
  })
  it('is told where half of the picture is busy', () => {
    const half = picture(
      (x, y) =>
        [0, 1, 2].map(
          (c) => (x < WIDTH / 2 ? 120 : 60 + ((x * 31 + y * 17) % 120)) + 3 * normal(x, y, c),
        ) as unknown as Rgb,
    )
    expect(grainOf(half)!.deviation).toBeGreaterThan(2.6)
    expect(grainOf(half)!.deviation).toBeLessThan(3.4)
  })
  it('is none in one colour, and not told of a speck', () => {
    expect(grainOf(picture(() => [90, 90, 90]))).toEqual({ deviation: 0, byTone: [] })
    expect(grainOf(picture(() => [90, 90, 90], 7, 7))).toBeNull()
  })
})

describe('blur at an edge', () => {
  const straight = (sigma: number, slope: number) => {
    const cover = matte((x, y) => y < 80 + slope * x),
      soft = gaussianBlur(cover, sigma)
    return {
      cover,
      photo: picture((x, y) => {
        const a = soft.data[y * WIDTH + x] / 255,
          v = 255 * fromLinear(0.7 * a + 0.03 * (1 - a))
        return [v, v, v]
      }),
    }
  }
  it('is the sigma of the Gaussian it was blurred with, within 0.3 px, along any slope', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.6, max: 2.5, noNaN: true }),
        fc.double({ min: -0.25, max: 0.25, noNaN: true }),
        (sigma, slope) => {
          const { cover, photo } = straight(sigma, slope)
          expect(Math.abs(edgeBlurOf(photo, cover)! - sigma)).toBeLessThan(0.3)
        },
      ),
      { numRuns: 12 },
    )
  })
  it('says how far an edge is worth being solved: farther the softer it is, also where it is softer than what is looked at', () => {
    const reach = (sigma: number) => {
      const { cover, photo } = straight(sigma, 0.1)
      return fittingReach(photo, cover)!
    }
    expect(reach(0.3)).toBe(3)
    expect(Math.abs(reach(2) - 7)).toBeLessThanOrEqual(1)
    expect(Math.abs(reach(5) - 17.5)).toBeLessThanOrEqual(3.5)
    expect(
      fittingReach(
        picture(() => [90, 90, 90]),
        matte((x) => x > 120),
      ),
    ).toBeNull()
  })
  it('is not told by twigs', () => {
    expect(
      edgeBlurOf(
        picture((x) => (x % 12 < 3 ? [20, 20, 20] : [200, 200, 200])),
        matte((x) => x % 12 >= 3),
      ),
    ).toBeNull()
  })
})

describe('horizon', () => {
  it('of a sea is seen, with its tilt', () => {
    const found = horizonOf(matte((x, y) => y < 70 + 0.05 * (x - WIDTH / 2)))!
    expect(found.seen).toBe(true)
    expect(found.y).toBeCloseTo(70, 0)
    expect(found.tilt).toBeCloseTo((Math.atan(0.05) * 180) / Math.PI, 1)
  })
  it('behind hills lies below the lowest sky', () => {
    const found = horizonOf(matte((x, y) => y < 60 + 25 * Math.sin(x / 23)))!
    expect(found.seen).toBe(false)
    expect(found.y).toBeGreaterThan(84)
    expect(found.y).toBeLessThan(86 + 0.045 * HEIGHT)
  })
  it('is not told without sky', () => expect(horizonOf(matte(() => false))).toBeNull())
})

describe('light', () => {
  const dull: Rgb = [214, 216, 218],
    blue: Rgb = [70, 125, 200]
  it('of an overcast sky has no sun; of a blue one it has', () => {
    expect(skyLightOf(picture(() => dull))!.direct).toEqual([0, 0, 0])
    const { direct, ambient } = skyLightOf(picture(() => blue))!
    expect(direct[1]).toBeGreaterThan(ambient[1])
    // A dark blue sky is one after sunset.
    expect(skyLightOf(picture(() => [30, 40, 75]))!.direct).toEqual([0, 0, 0])
  })
  it('an equal sky changes nothing (any colour)', () => {
    fc.assert(
      fc.property(fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255)), ([r, g, b]) => {
        fc.pre(Math.min(r, g, b) > 60)
        const photo = measure(
            picture((_, y) => (y < 60 ? [r, g, b] : [80, 70, 60])),
            matte((_, y) => y < 60),
          ),
          even = picture(() => [r, g, b]),
          { relight } = newSkyOf(photo, skyPictureOf(even, all, even)!)!
        relight.light.forEach((from, c) => expect((relight.ambient[c] + relight.sun[c]) / from).toBeCloseTo(1, 2))
      }),
      { numRuns: 25 },
    )
  })
  it('from the side that balls are lit from is told', () => {
    for (const side of [-1, 1]) {
      const balls = picture((x, y) => {
        if (y < 40) return dull
        const u = ((x % 40) - 20) / 18,
          v = ((y % 40) - 20) / 18,
          lit = u * u + v * v < 1 ? 0.5 + 0.45 * (side * u * 0.8 + Math.sqrt(1 - u * u - v * v) * 0.6) : 0.25
        return [lit * 200, lit * 170, lit * 140]
      })
      expect(
        Math.sign(
          lightSideOf(
            balls,
            matte((_, y) => y < 40),
          )!,
        ),
      ).toBe(side)
    }
  })
  it('haze is as much as was laid over the far land', () => {
    const air = 255 * fromLinear(0.6),
      sky = matte((_, y) => y < 60)
    for (const haze of [0, 0.3, 0.6]) {
      const veiled = picture((x, y) => {
        if (y < 60) return [air, air, air]
        const land = (x * 7 + y * 3) % 5 === 0 ? 0 : 0.2,
          v = 255 * fromLinear(land * (1 - haze) + 0.6 * haze)
        return [v, v, v]
      })
      expect(hazeOf(veiled, sky, [0.6, 0.6, 0.6])!).toBeCloseTo(haze, 1)
    }
  })
})

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
