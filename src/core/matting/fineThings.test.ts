import { describe, expect, it } from 'vitest'
import fc from '../../../tests/properties'
import { randomOf } from '../../../tests/madeUp/random'
import { countSet } from '../raster/countSet'
import { type Matte, type Picture } from '../raster/picture'
import { bandAlong, MIDDLE, nearSet } from './band'
import { followFineThings, LIVELY, WIDER } from './fineThings'
import { noiseOf, varianceAt } from './noise'

/** A flood over the whole picture in one go, as the definition has it. */
function flooded(picture: Picture, matte: Matte, open: Uint8Array, reach: number): Uint8Array {
  const { width, height } = picture,
    lively = noiseOf(picture, open) * LIVELY,
    near = nearSet(open, matte, WIDER * reach),
    out = open.slice(),
    stack = [...out.keys()].filter((i) => out[i])
  for (let i = stack.pop(); i !== undefined; i = stack.pop())
    for (const k of [i - 1, i + 1, i - width, i + width]) {
      const x = k % width,
        y = Math.floor(k / width)
      if (x < 1 || y < 1 || x >= width - 1 || y >= height - 1) continue
      if (out[k] || !near[k] || matte.data[k] >= MIDDLE || varianceAt(picture, k) <= lively) continue
      out[k] = 1
      stack.push(k)
    }
  return out
}

describe('fine things along an edge', () => {
  it('are followed through strips of rows, up and down again, as by one flood over all', () => {
    const width = 90,
      height = 420
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 20, max: 70 }), (seed, turns) => {
        const r = randomOf(seed),
          data = new Uint8ClampedArray(width * height * 4),
          coverage = new Uint8Array(width * height)
        for (let i = 0; i < width * height; i++) {
          const x = i % width,
            y = Math.floor(i / width)
          coverage[i] = x < 12 ? 255 : 0
          const grain = (i * 7919) % 5
          for (let c = 0; c < 3; c++) data[4 * i + c] = (x < 12 ? 190 : 60) + grain
          data[4 * i + 3] = 255
          // The picture's own hairs: lines that wander over its whole height.
          if (Math.abs(x - 30 - 20 * Math.sin((y * turns) / 200)) < 1.2 || r.chance(0.02))
            data.fill(230, 4 * i, 4 * i + 3)
          if (y % 97 < 2 && x > 10 && x < 60) data.fill(220, 4 * i, 4 * i + 3)
        }
        const picture = { width, height, data },
          matte = { width, height, data: coverage },
          open = bandAlong(matte, 9),
          expected = flooded(picture, matte, open, 9)
        followFineThings(picture, matte, open, 9)
        expect(Buffer.compare(Buffer.from(open), Buffer.from(expected))).toBe(0)
        expect(countSet(open)).toBeGreaterThan(countSet(bandAlong(matte, 9)))
      }),
      { numRuns: 12 },
    )
  })
})
