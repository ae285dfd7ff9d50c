import { randomOf } from '../../../tests/madeUp/random'
import fc from '../../../tests/properties'
import { expect, it } from 'vitest'
import { type Level } from './level'
import { roomForSamples, sampledCoverage, wayToKnown } from './sampling'

const cases = fc.record({
  width: fc.integer({ min: 1, max: 40 }),
  height: fc.integer({ min: 1, max: 40 }),
  known: fc.constantFrom(0, 0.003, 0.03, 0.3, 1),
  seed: fc.nat(),
})

it('the way to what is known is the longer of the ways along rows and columns, as brute force finds it', () => {
  fc.assert(
    fc.property(cases, ({ width, height, known, seed }) => {
      const r = randomOf(seed),
        unknown = Uint8Array.from({ length: width * height }, () => (r.chance(known) ? 0 : 1)),
        way = wayToKnown(unknown, { width, height })
      for (let i = 0; i < way.length; i++) {
        let least = 255
        for (let j = 0; j < way.length; j++)
          if (!unknown[j])
            least = Math.min(
              least,
              Math.max(Math.abs((i % width) - (j % width)), Math.abs(Math.floor(i / width) - Math.floor(j / width))),
            )
        expect(way[i]).toBe(least)
      }
    }),
  )
})

it('what lies between is passed over: samples are those of rays that look at each px', () => {
  fc.assert(
    fc.property(cases, ({ width, height, known, seed }) => {
      const r = randomOf(seed),
        count = width * height,
        level: Level = {
          picture: { width, height, data: Uint8ClampedArray.from({ length: 4 * count }, () => r.whole(0, 256)) },
          unknown: Uint8Array.from({ length: count }, () => (r.chance(known) ? 0 : 1)),
          alpha: Float32Array.from({ length: count }, () => r.one([0, 0, 0.5, 1, 1])),
        }
      const by = (away: Uint8Array) => {
        const samples = roomForSamples(level.picture, (length) => new Float32Array(length))
        sampledCoverage(level, away, samples)
        return samples
      }
      expect(by(wayToKnown(level.unknown, level.picture))).toEqual(by(new Uint8Array(count).fill(1)))
    }),
  )
})
