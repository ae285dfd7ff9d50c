import fc from '../../../tests/properties'
import { expect, it } from 'vitest'
import { type Matte } from './picture'
import { boundsOf, tallyOf } from './tally'

/** Pixel by pixel. */
function plainTally({ width, height, data }: Matte) {
  let [left, right, top, bottom] = [width, -1, -1, -1]
  for (let i = 0; i < width * height; i++)
    if (data[i]) {
      const x = i % width
      left = Math.min(left, x)
      right = Math.max(right, x)
      if (top < 0) top = Math.floor(i / width)
      bottom = Math.floor(i / width)
    }
  return {
    selected: data.reduce((sum, v) => sum + v, 0) / (255 * width * height),
    soft: data.reduce((sum, v) => sum + Number(v > 0 && v < 255), 0) / (width * height),
    bounds: right < 0 ? null : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 },
  }
}

it('what is counted is the same as pixel by pixel, wherever the bytes lie in memory', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 90 }),
      fc.integer({ min: 1, max: 17 }),
      fc.array(fc.tuple(fc.nat(), fc.oneof(fc.constant(255), fc.integer({ min: 1, max: 255 }))), { maxLength: 9 }),
      fc.boolean(),
      fc.integer({ min: 0, max: 3 }),
      (width, height, covered, full, offset) => {
        const data = new Uint8Array(new ArrayBuffer(width * height + 4), offset, width * height)
        if (full) data.fill(255)
        for (const [at, value] of covered) data[at % data.length] = full ? 255 - value : value
        const matte = { width, height, data }
        expect(tallyOf(matte)).toEqual(plainTally(matte))
        expect(boundsOf(matte)).toEqual(plainTally(matte).bounds)
      },
    ),
    { numRuns: 1000 },
  )
})
it('a matte that is counted in several parts is counted as one', () => {
  const matte = { width: 701, height: 1100, data: new Uint8Array(701 * 1100) }
  for (let y = 380; y < 1099; y++) for (let x = 17 + (y % 3); x < 690; x += 7) matte.data[y * 701 + x] = (x * y) & 255
  expect(tallyOf(matte)).toEqual(plainTally(matte))
})
