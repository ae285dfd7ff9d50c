import fc from '../../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { converter } from 'culori'
import { adaptation, D65, whiteOf } from '../../colour/adaptation'
import { fromLinear, toLinear } from '../../colour/srgb'
import { IDENTITY } from '../../raster/affine'
import { type Picture } from '../../raster/picture'
import { type Hex } from '../fill'
import { composeRegion } from '../composeRegion'
import { belongs } from './hueSaturation'
import { curveThrough } from './curves'
import { PLAIN_LEVELS } from './levels'
import { ADJUSTMENTS, type AdjustmentKind, type AdjustmentRecord, parseAdjustment } from './registry'

const SIZE = 16
const photo: Picture = {
  width: SIZE,
  height: SIZE,
  data: new Uint8ClampedArray(SIZE * SIZE * 4).map((_, i) => (i % 4 === 3 ? 255 : (i * 53 + (i >> 5) * 31) % 256)),
}
const whole = { level: 0, x: 0, y: 0, width: SIZE, height: SIZE }
const under = (picture: Picture) =>
  ({ kind: 'picture', picture: { levels: [picture], opaque: false }, toCanvas: IDENTITY, opacity: 1 }) as const
const adjusted = (adjustment: AdjustmentRecord, picture = photo, more: object = {}) =>
  composeRegion([under(picture), { kind: 'adjust', adjustment, opacity: 1, ...more }], {
    ...whole,
    width: picture.width,
    height: picture.height,
  }).data
const record = (kind: AdjustmentKind, values: object = {}) => parseAdjustment({ kind, ...values })
const one = (r: number, g: number, b: number, a = 255): Picture => ({
  width: 1,
  height: 1,
  data: new Uint8ClampedArray([r, g, b, a]),
})

describe('adjustments', () => {
  it.each([
    record('exposure'),
    record('brightnessContrast'),
    record('levels'),
    record('curves'),
    record('curves', {
      all: [
        [0, 0],
        [0.25, 0.25],
        [0.5, 0.5],
        [1, 1],
      ],
      red: [
        [0, 0],
        [0.7, 0.7],
        [1, 1],
      ],
    }),
    record('whiteBalance'),
    record('hueSaturation'),
    record('hueSaturation', { ranges: [{ hue: 20, width: 30, soft: 10, turn: 0, saturation: 0, lightness: 0 }] }),
    record('shadowsHighlights'),
    record('clarity'),
    record('vibrance'),
    record('tint', { amount: 0 }),
    record('gaussianBlur', { radius: 0 }),
    record('discBlur', { radius: 0 }),
    record('sharpen', { amount: 0 }),
    record('grain', { amount: 0 }),
    record('vignette', { amount: 0 }),
    record('sideLight', { angle: 30 }),
  ])('values that say nothing change nothing: $kind', (plain) => {
    expect(adjusted(plain)).toEqual(photo.data)
  })

  it('one more stop doubles linear light (the definition of a stop)', () => {
    for (let v = 0; v <= 255; v += 5) {
      const [out] = adjusted(record('exposure', { stops: 1 }), one(v, v, v))
      expect(Math.abs(out - 255 * fromLinear(Math.min(1, 2 * toLinear(v / 255))))).toBeLessThan(0.6)
      const [less] = adjusted(record('exposure', { stops: -1 }), one(v, v, v))
      expect(Math.abs(less - 255 * fromLinear(toLinear(v / 255) / 2))).toBeLessThan(0.6)
    }
  })
  it('invert twice is nothing; alpha stays, and transparent stays transparent', () => {
    const twice = composeRegion(
      [
        under(photo),
        { kind: 'adjust', adjustment: record('invert'), opacity: 1 },
        { kind: 'adjust', adjustment: record('invert'), opacity: 1 },
      ],
      whole,
    ).data
    expect(twice).toEqual(photo.data)
    for (const kind of Object.keys(ADJUSTMENTS) as AdjustmentKind[])
      expect(adjusted(record(kind), one(200, 100, 50, 0))[3], kind).toBe(0)
    expect(adjusted(record('invert'), one(200, 100, 50, 128))[3]).toBe(128)
  })
  it('white balance: Bradford from D65 to D50 is the published matrix', () => {
    // Lindbloom, "Chromatic Adaptation": D65 to D50 by Bradford (value from memory), for his whites.
    const published = [
      1.0478112, 0.0228866, -0.050127, 0.0295424, 0.9904844, -0.0170491, -0.0092345, 0.0150436, 0.7521316,
    ]
    adaptation([0.95047, 1, 1.08883], [0.96422, 1, 0.82521]).forEach((v, i) => expect(v).toBeCloseTo(published[i], 5))
    expect(adaptation(D65, D65).map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([1, 0, 0, 0, 1, 0, 0, 0, 1])
    // The daylight line goes through D65 at 6504 K and D50 at 5003 K (CIE 15:2004).
    whiteOf(6504, 0).forEach((v, i) => expect(v).toBeCloseTo(D65[i], 2))
    whiteOf(5003, 0).forEach((v, i) => expect(v).toBeCloseTo([0.96422, 1, 0.82521][i], 2))
  })
  it('warmer makes greys redder and less blue at about the same luminance; tint goes between green and magenta', () => {
    const [r, g, b] = adjusted(record('whiteBalance', { temperature: 0.5 }), one(128, 128, 128))
    expect(r).toBeGreaterThan(132)
    expect(b).toBeLessThan(120)
    expect(Math.abs(g - 128)).toBeLessThan(5)
    const [mr, mg, mb] = adjusted(record('whiteBalance', { tint: 0.5 }), one(128, 128, 128))
    expect(mg).toBeLessThan(mr)
    expect(mg).toBeLessThan(mb)
  })
  it('relight multiplies light by what the new sky gives over what the old one gave; equal skies change nothing', () => {
    const light = [0.6, 0.5, 0.4]
    expect(adjusted(record('relight', { light, ambient: light }), one(180, 90, 40))).toEqual(one(180, 90, 40).data)
    // Half the light in red, the same in green, twice in blue: as linear values of the exact curve.
    const [r, g, b] = adjusted(record('relight', { light, ambient: [0.3, 0.5, 0.8] }), one(180, 90, 40))
    expect(r).toBe(Math.round(255 * fromLinear(toLinear(180 / 255) / 2)))
    expect(g).toBe(90)
    expect(b).toBe(Math.round(255 * fromLinear(toLinear(40 / 255) * 2)))
    // The sun counts as far as it is let.
    const sunny = { light, ambient: [0.1, 0.1, 0.1], sun: [0.5, 0.4, 0.3] }
    expect(adjusted(record('relight', sunny), one(180, 90, 40))).toEqual(one(180, 90, 40).data)
    expect(adjusted(record('relight', { ...sunny, direct: 0 }), one(180, 90, 40))[0]).toBeLessThan(100)
    // Tone alone keeps the hue of grey, colour alone its lightness; neither leaves all as it was.
    const warm = { light, ambient: [1.2, 0.5, 0.2] }
    const grey = adjusted(record('relight', { ...warm, colour: 0 }), one(128, 128, 128))
    expect(grey[0]).toBe(grey[2])
    expect(adjusted(record('relight', { ...warm, tone: 0, colour: 0 }), one(180, 90, 40))).toEqual(
      one(180, 90, 40).data,
    )
    const [cr, cg, cb] = Array.from(adjusted(record('relight', { ...warm, tone: 0 }), one(128, 128, 128)), (v) =>
      toLinear(v / 255),
    )
    expect(0.2126 * cr + 0.7152 * cg + 0.0722 * cb).toBeCloseTo(toLinear(128 / 255), 2)
  })
  it('hue turned by the adjustment is turned by so much in culori’s OKLCh', () => {
    const toLch = converter('oklch'),
      of = (c: ArrayLike<number>) => toLch({ mode: 'rgb', r: c[0] / 255, g: c[1] / 255, b: c[2] / 255 })
    const before = of([150, 110, 90]),
      after = of(adjusted(record('hueSaturation', { turn: 60, saturation: 0.2 }), one(150, 110, 90)))
    expect(after.h! - before.h!).toBeCloseTo(60, -0.5)
    expect(after.c / before.c).toBeCloseTo(1.2, 1)
    expect(after.l).toBeCloseTo(before.l, 2)
  })
  it('a range’s own turn is culori’s, too, within a degree; colours of no hue stay', () => {
    const toLch = converter('oklch'),
      of = (c: ArrayLike<number>) => toLch({ mode: 'rgb', r: c[0] / 255, g: c[1] / 255, b: c[2] / 255 })
    for (const [r, g, b] of [
      [160, 110, 95],
      [100, 140, 110],
      [110, 120, 160],
    ]) {
      const before = of([r, g, b]),
        range = { hue: before.h!, width: 30, soft: 10, turn: 25, saturation: 0.1, lightness: 0 }
      const after = of(adjusted(record('hueSaturation', { ranges: [range] }), one(r, g, b)))
      expect(Math.abs(((after.h! - before.h! + 540) % 360) - 180 - 25)).toBeLessThan(1.5)
      expect(after.c / before.c).toBeCloseTo(1.1, 1)
    }
    const all = { hue: 0, width: 360, soft: 0, turn: 90, saturation: 0.5, lightness: 0 }
    adjusted(record('hueSaturation', { ranges: [all] }), one(128, 128, 128))
      .slice(0, 3)
      .forEach((v) => expect(Math.abs(v - 128)).toBeLessThanOrEqual(1))
  })
  it('hue and saturation: no saturation is grey of the same OKLab lightness; a range changes its own hues only', () => {
    const [r, g, b] = adjusted(record('hueSaturation', { saturation: -1 }), one(220, 40, 60))
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThanOrEqual(1)
    const red = { hue: 29, width: 40, soft: 20, turn: 0, saturation: -1, lightness: 0 }
    const paled = adjusted(record('hueSaturation', { ranges: [red] }), one(230, 40, 30)),
      kept = adjusted(record('hueSaturation', { ranges: [red] }), one(40, 80, 230))
    expect(Math.max(...paled.slice(0, 3)) - Math.min(...paled.slice(0, 3))).toBeLessThan(60)
    expect([...kept.slice(0, 3)]).toEqual([40, 80, 230])
    expect([belongs(red, 29), belongs(red, 49), belongs(red, 359), belongs(red, 120)]).toEqual(
      [1, 1, 0, 0].map((v, i) => (i === 2 ? expect.closeTo(0.5, 6) : v)),
    )
  })
  it('curves go through their points, stay between neighbours, and never turn back where the points rise', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 8 }),
        fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 8, maxLength: 8 }),
        (xs, ys) => {
          const at = [...xs].sort((a, b) => a - b),
            rising = [...ys].sort((a, b) => a - b)
          const curve = curveThrough(at.map((x, i) => [x / 100, rising[i] / 100] as const))
          at.forEach((x, i) => expect(curve(x / 100)).toBeCloseTo(rising[i] / 100, 9))
          let before = -1
          for (let v = 0; v <= 1; v += 0.005) {
            const now = curve(v)
            expect(now).toBeGreaterThanOrEqual(before - 1e-9)
            before = now
          }
        },
      ),
    )
  })
  it('levels: black and white land where they are told, gamma 2 makes the middle its root', () => {
    const levels = record('levels', { all: [0.2, 1, 0.8, 0, 1] })
    expect([51, 204, 128].map((v) => adjusted(levels, one(v, v, v))[0])).toEqual([0, 255, expect.closeTo(128.2, 0)])
    expect(adjusted(record('levels', { all: [0, 2, 1, 0, 1] }), one(64, 64, 64))[0]).toBe(
      Math.round(255 * Math.sqrt(64 / 255)),
    )
    expect(
      adjusted(record('levels', { all: PLAIN_LEVELS, blue: [0, 1, 1, 1, 0] }), one(10, 20, 30)).slice(0, 3),
    ).toEqual(new Uint8ClampedArray([10, 20, 225]))
  })
  it('black hides and white shows an adjustment (common practice), half is half way; on a masked area only, the rest stays', () => {
    const mask = { levels: [{ width: 3, height: 1, data: new Uint8Array([0, 128, 255]) }], toCanvas: IDENTITY }
    const row: Picture = {
      width: 3,
      height: 1,
      data: new Uint8ClampedArray([100, 100, 100, 255, 100, 100, 100, 255, 100, 100, 100, 255]),
    }
    const out = adjusted(record('invert'), row, { mask })
    expect([out[0], out[4], out[8]]).toEqual([100, 128, 155])
    expect(
      [...adjusted(record('invert'), row, { mask: { ...mask, invert: true } })].filter((_, i) => i % 4 === 0),
    ).toEqual([155, 127, 100])
    expect(
      [...adjusted(record('invert'), row, { mask: { ...mask, strength: 0 } })].filter((_, i) => i % 4 === 0),
    ).toEqual([155, 155, 155])
  })
  it('black and white keeps white; tint keeps black and white and gives its own colour at its own tone', () => {
    expect([...adjusted(record('blackAndWhite'), one(255, 255, 255))]).toEqual([255, 255, 255, 255])
    const tint = record('tint', { colour: '#704214' as Hex })
    expect([...adjusted(tint, one(0, 0, 0))]).toEqual([0, 0, 0, 255])
    expect([...adjusted(tint, one(255, 255, 255))]).toEqual([255, 255, 255, 255])
    const tone = Math.round(0.2126 * 0x70 + 0.7152 * 0x42 + 0.0722 * 0x14)
    ;[0x70, 0x42, 0x14].forEach((v, c) =>
      expect(Math.abs(adjusted(tint, one(tone, tone, tone))[c] - v)).toBeLessThanOrEqual(1),
    )
  })
  it('shadows open where it is dark and leave light; clarity and sharpening leave flat areas', () => {
    const flat = (v: number): Picture => ({
      width: SIZE,
      height: SIZE,
      data: new Uint8ClampedArray(SIZE * SIZE * 4).map((_, i) => (i % 4 === 3 ? 255 : v)),
    })
    expect(adjusted(record('shadowsHighlights', { shadows: 0.6 }), flat(40))[0]).toBeGreaterThan(60)
    expect(adjusted(record('shadowsHighlights', { shadows: 0.6 }), flat(220))[0]).toBe(220)
    expect(adjusted(record('shadowsHighlights', { highlights: 0.6 }), flat(230))[0]).toBeLessThan(220)
    expect(adjusted(record('clarity', { amount: 1 }), flat(128))[0]).toBe(128)
    expect(adjusted(record('sharpen', { amount: 2, radius: 4 }), flat(99))[0]).toBe(99)
  })
  it('grain has no mean, is as strong as it says, stays in place, and averages out from afar', () => {
    const grained = (level: number, x = 0) =>
      composeRegion(
        [
          { kind: 'fill', fill: { kind: 'colour', colour: '#808080' }, toCanvas: IDENTITY, opacity: 1 },
          { kind: 'adjust', adjustment: record('grain', { amount: 0.5, size: 1 }), opacity: 1 },
        ],
        { level, x, y: 0, width: 128, height: 128 },
      ).data.filter((_, i) => i % 4 === 0)
    const spread = (values: Uint8ClampedArray) => {
      const mean = values.reduce((a, b) => a + b, 0) / values.length
      return { mean, deviation: Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length) }
    }
    const near = spread(grained(0)),
      far = spread(grained(2))
    expect(near.mean).toBeCloseTo(128, -1)
    expect(near.deviation).toBeCloseTo(0.09 * 255, -1)
    expect(far.deviation / near.deviation).toBeCloseTo(0.25, 1)
    expect(grained(0, 64)[5]).toBe(grained(0)[69])
  })
  it('a vignette darkens the corners in light and leaves the middle', () => {
    const out = adjusted(record('vignette', { amount: -1, size: 0.2, soft: 0.5 }))
    expect(out[(8 * SIZE + 8) * 4]).toBe(photo.data[(8 * SIZE + 8) * 4])
    expect(out[1]).toBeLessThan(photo.data[1] * 0.7)
  })
  it('refuses unknown kinds and wrong values by name', () => {
    expect(() => parseAdjustment({ kind: 'glow' })).toThrow(/adjustment\.kind: takes one of exposure/)
    expect(() => parseAdjustment({ kind: 'exposure', stops: 99 })).toThrow(
      'adjustment.stops: takes a number from -10 to 10, not 99.',
    )
    expect(() => parseAdjustment({ kind: 'exposure', stop: 1 })).toThrow(/no such field/)
    expect(() => parseAdjustment({ kind: 'levels', red: [0, 0, 1, 0, 1] })).toThrow(/levels|red/)
  })
})
