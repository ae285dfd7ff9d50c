import { describe, expect, it } from 'vitest'
import fc from '../../../tests/properties'
import { type Picture } from '../raster/picture'
import { expectedCoverage, type Known, looksAt } from './expectedCoverage'

/** A light disc before a dark ground, with grain; known up to a ring around its edge. */
function disc(width: number, height: number, radius: number): Known & { truth: Float32Array } {
  const data = new Uint8ClampedArray(width * height * 4),
    unknown = new Uint8Array(width * height),
    truth = new Float32Array(width * height)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const away = Math.hypot(x + 0.5 - width / 2, y + 0.5 - height / 2) - radius
      truth[i] = Math.min(1, Math.max(0, 0.5 - away / 3))
      unknown[i] = Math.abs(away) < 9 ? 1 : 0
      const grain = ((x * 7919 + y * 104_729) % 11) - 5
      ;[210, 180, 120].forEach((v, c) => (data[4 * i + c] = v * truth[i] + [40, 60, 90][c] * (1 - truth[i]) + grain))
      data[4 * i + 3] = 255
    }
  const picture: Picture = { width, height, data }
  return { picture, unknown, truth, coverage: truth, full: 1 }
}

const all = (known: Known) => expectedCoverage(known, looksAt(known.unknown, known.picture), () => {})

describe('coverage as the network expects it', () => {
  it('tells the two sides of a plain edge', () => {
    const known = disc(300, 220, 70),
      coverage = all(known)
    let sum = 0,
      count = 0
    known.unknown.forEach((open, i) => {
      if (!open) return
      sum += (coverage[i] - known.truth[i]) ** 2
      count++
    })
    expect(sum / count).toBeLessThan(0.05)
  })
  it('looks wherever something is unknown and nowhere else, in pictures of any size', () => {
    fc.assert(
      fc.property(
        fc.record({
          width: fc.integer({ min: 1, max: 420 }),
          height: fc.integer({ min: 1, max: 300 }),
          places: fc.array(fc.tuple(fc.nat(), fc.nat()), { minLength: 1, maxLength: 3 }),
        }),
        ({ width, height, places }) => {
          const unknown = new Uint8Array(width * height)
          for (const [x, y] of places) unknown[(y % height) * width + (x % width)] = 1
          const picture = { width, height, data: new Uint8ClampedArray(width * height * 4).fill(128) },
            looks = looksAt(unknown, picture),
            coverage = all({ picture, unknown, coverage: new Uint8Array(unknown.length), full: 255 })
          expect(looks.length).toBeLessThanOrEqual(places.length)
          expect(unknown.every((open, i) => coverage[i] > 0 === (open === 1))).toBe(true)
          for (const { part } of looks) expect(part.width * part.height).toBeLessThanOrEqual(176 * 176)
        },
      ),
      { numRuns: 12 },
    )
  })
  it('asks whether to go on before each look', () => {
    const known = disc(300, 220, 70)
    expect(() =>
      expectedCoverage(known, looksAt(known.unknown, known.picture), () => {
        throw new Error('stop')
      }),
    ).toThrow('stop')
  })
})
