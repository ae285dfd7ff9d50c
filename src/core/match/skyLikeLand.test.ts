import { describe, expect, it } from 'vitest'
import fc from '../../../tests/properties'
import { toLinear, fromLinear } from '../colour/srgb'
import { parseAdjustment, type AdjustmentOf, type AdjustmentRecord } from '../compose/adjustments/registry'
import { gainsOf } from '../compose/adjustments/relight'
import { composeRegion } from '../compose/composeRegion'
import { IDENTITY } from '../raster/affine'
import { type Picture } from '../raster/picture'
import { skyLikeLand } from './skyLikeLand'

const light = (values: object) => parseAdjustment({ kind: 'relight', ...values }) as AdjustmentOf<'relight'>

/** One dark grey through adjustments, linear. */
function seen(adjustments: readonly AdjustmentRecord[]): number[] {
  const picture: Picture = { width: 1, height: 1, data: Uint8ClampedArray.of(80, 80, 80, 255) },
    whole = { level: 0, x: 0, y: 0, width: 1, height: 1 }
  const { data } = composeRegion(
    [
      { kind: 'picture', picture: { levels: [picture], opaque: true }, toCanvas: IDENTITY, opacity: 1 },
      ...adjustments.map((adjustment) => ({ kind: 'adjust', adjustment, opacity: 1 }) as const),
    ],
    whole,
  )
  return [...data.slice(0, 3)].map((v) => toLinear(v / 255))
}

describe('a sky as the land’s light says', () => {
  it('needs nothing where the land follows it whole', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.05, max: 4, noNaN: true }), { minLength: 9, maxLength: 9 }), (v) => {
        expect(skyLikeLand(light({ light: v.slice(0, 3), ambient: v.slice(3, 6), sun: v.slice(6) }))).toEqual({
          exposure: { kind: 'exposure', stops: 0 },
          whiteBalance: { kind: 'whiteBalance', temperature: 0, tint: 0 },
        })
      }),
    )
  })
  it('is as light as the old one where the land does not follow at all: a stop darker where it was twice as light', () => {
    const { exposure, whiteBalance } = skyLikeLand(
      light({ light: [0.4, 0.4, 0.4], ambient: [0.8, 0.8, 0.8], tone: 0, colour: 0 }),
    )
    expect(exposure.stops).toBeCloseTo(-1, 6)
    expect([whiteBalance.temperature, whiteBalance.tint]).toEqual([0, 0])
  })
  it('a grey of the sky becomes what the land’s light is to the sky’s, by the ordinary adjustments', () => {
    const near = fc.double({ min: 0.75, max: 1.3, noNaN: true }),
      share = fc.double({ min: 0, max: 1, noNaN: true })
    let compared = 0
    fc.assert(
      fc.property(near, near, near, near, share, share, (red, green, blue, lighter, tone, colour) => {
        const relight = light({ light: [0.5, 0.5, 0.5], ambient: [red, green, blue].map((v) => 0.5 * v * lighter), tone, colour }) // prettier-ignore
        const { exposure, whiteBalance } = skyLikeLand(relight)
        if (Math.abs(whiteBalance.temperature) === 1 || Math.abs(whiteBalance.tint) === 1) return // beyond what it can
        compared++
        const now = gainsOf(relight),
          whole = gainsOf({ ...relight, tone: 1, colour: 1 }),
          [before, after] = [seen([]), seen([exposure, whiteBalance])]
        after.forEach((v, c) => {
          const wanted = fromLinear(before[c] * (now[c] / whole[c]))
          expect(Math.abs(255 * (fromLinear(v) - wanted))).toBeLessThan(4) // levels; the daylight line is no chord of the colours
        })
      }),
      { numRuns: 60 },
    )
    expect(compared).toBeGreaterThan(20)
  })
})
