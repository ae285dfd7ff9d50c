import { describe, expect, it } from 'vitest'
import fc from '../../../tests/properties'
import { randomOf } from '../../../tests/madeUp/random'
import { countSet } from '../raster/countSet'
import { halvePicture } from '../raster/levels'
import { alone } from '../parallel/crew'
import { halved } from './level'

describe('half of a level', () => {
  it('is the mean of what is there and unknown where any of it is, in as many strips as it takes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 600 }), (width, height) => {
        const r = randomOf(width * 1000 + height),
          unknown = Uint8Array.from({ length: width * height }, () => (r.chance(0.1) ? 1 : 0)),
          coverage = Uint8Array.from({ length: width * height }, (_, i) => (i * 37) % 256),
          data = Uint8ClampedArray.from({ length: width * height * 4 }, () => r.whole(0, 256)),
          picture = { width, height, data },
          half = halved({ picture, unknown, coverage, full: 255 }, alone)
        expect(half.picture).toEqual(halvePicture(picture))
        for (let v = 0, o = 0; v < half.picture.height; v++)
          for (let u = 0; u < half.picture.width; u++, o++) {
            const at = [0, 1, 2, 3].map(
              (k) => Math.min(height - 1, 2 * v + (k >> 1)) * width + Math.min(width - 1, 2 * u + (k & 1)),
            )
            expect(half.unknown[o]).toBe(Math.max(...at.map((i) => unknown[i])))
            expect(half.alpha[o]).toBeCloseTo(at.reduce((sum, i) => sum + coverage[i], 0) / 1020, 6)
          }
        expect(countSet(unknown)).toBe(unknown.reduce((sum, v) => sum + v, 0))
      }),
      { numRuns: 12 },
    )
  })
})
