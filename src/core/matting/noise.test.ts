import { randomOf } from '../../../tests/madeUp/random'
import fc from '../../../tests/properties'
import { expect, it } from 'vitest'
import { noiseOf, varianceAt } from './noise'

it('is the calmest tenth of the windows that are looked at, every third row, wherever the mask is set', () => {
  const cases = fc.record({
    width: fc.integer({ min: 3, max: 17 }),
    height: fc.integer({ min: 3, max: 17 }),
    share: fc.constantFrom(0, 0.02, 0.2, 1),
    seed: fc.nat(),
  })
  fc.assert(
    fc.property(cases, ({ width, height, share, seed }) => {
      const r = randomOf(seed),
        data = Uint8ClampedArray.from({ length: width * height * 4 }, () => r.whole(0, 256)),
        picture = { width, height, data },
        mask = Uint8Array.from({ length: width * height }, () => (r.chance(share) ? 1 : 0)),
        found: number[] = []
      for (let y = 1; y < height - 1; y += 3)
        for (let x = 1; x < width - 1; x++) if (mask[y * width + x]) found.push(varianceAt(picture, y * width + x))
      found.sort((a, b) => a - b)
      expect(noiseOf(picture, mask)).toBe(found.length ? Math.max(1e-9, found[Math.floor(found.length / 10)]) : 1e-9)
    }),
  )
})
