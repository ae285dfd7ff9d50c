import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { fromLinear } from '../colour/srgb'
import { gaussianBlur } from '../raster/gaussian'
import { edgeBlurOf } from './edgeBlur'
import { fittingReach } from './fittingReach'
import { grainOf } from './grain'
import { hazeOf } from './haze'
import { horizonOf, rowOf } from './horizon'
import { lightSideOf } from './lightSide'
import { measure } from './measure'
import { newSkyOf } from './newSky'
import { skyPictureOf } from './readSkyPicture'
import { skyLightOf } from './skyLight'
import { type Likelihood } from '../network/likelihood'
import { WIDTH, HEIGHT, type Rgb, picture, matte, all, normal } from '../../../tests/setups/match'

/** What the network may say: so surely that what lies under a row lies below the horizon. */
const below = (row: number, nats = 3): Likelihood => ({
  part: { x: 0, y: 0, width: WIDTH, height: HEIGHT },
  width: 64,
  height: HEIGHT / 2,
  data: Float32Array.from({ length: (64 * HEIGHT) / 2 }, (_, i) => (2 * Math.floor(i / 64) + 1 > row ? nats : -nats)),
})

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
  it('is the same whether rows are gone through four px at a time or one by one', () => {
    fc.assert(
      fc.property(fc.integer({ min: 20, max: 70 }), fc.integer({ min: 0, max: 30 }), (length, phase) => {
        const above = (x: number, y: number) => 80 + 30 * Math.sin((x + phase) / length) - y,
          told = (width: number) =>
            edgeBlurOf(
              picture((x, y) => {
                const v = 40 + (x % 7) + 160 * Math.min(1, Math.max(0, 0.5 + above(x, y) / 6))
                return [v, v, v]
              }, width),
              matte((x, y) => x < WIDTH - 20 && above(x, y) > 0, width),
            )
        expect(told(WIDTH)).toBeGreaterThan(0)
        for (const more of [1, 2, 3]) expect(told(WIDTH + more)).toBe(told(WIDTH))
      }),
      { numRuns: 10 },
    )
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
  it('is not told without sky', () => {
    expect(horizonOf(matte(() => false))).toBeNull()
    expect(
      horizonOf(
        matte(() => false),
        below(60),
      ),
    ).toBeNull()
  })
  it('is the row that parts what the network sees, whatever a few pixels shout', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: HEIGHT / 2 }), fc.nat(), (row, at) => {
        const seen = below(2 * row)
        expect(rowOf(seen)).toBeCloseTo(row, 0)
        seen.data[at % seen.data.length] = 1e6
        expect(Math.abs(rowOf(seen) - row)).toBeLessThanOrEqual(0.5)
      }),
    )
  })
  it('behind hills lies between where the skyline and where the network tell it; far from the skyline the network is right', () => {
    const hills = matte((x, y) => y < 60 + 25 * Math.sin(x / 23)),
      alone = horizonOf(hills)!.y,
      near = Math.round(alone + 0.08 * HEIGHT),
      both = horizonOf(hills, below(near))!.y
    expect(both).toBeGreaterThan(alone + 0.02 * HEIGHT)
    expect(both).toBeLessThan(near)
    const far = Math.round(alone + 0.2 * HEIGHT)
    expect(Math.abs(horizonOf(hills, below(far))!.y - far)).toBeLessThanOrEqual(1)
  })
  it('of a sea stays where it is seen, but where the network sees it elsewhere (half of a sea taken for sky)', () => {
    const line = matte((_, y) => y < 70)
    expect(horizonOf(line, below(76))).toEqual(horizonOf(line))
    const found = horizonOf(line, below(40))!
    expect(found.seen).toBe(false)
    expect(Math.abs(found.y - 40)).toBeLessThanOrEqual(1)
  })
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
