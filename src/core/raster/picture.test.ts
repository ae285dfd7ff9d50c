import fc from '../../../tests/properties'
import { expect, it } from 'vitest'
import { boundsOf } from './picture'

/** Pixel by pixel. */
function plainBounds(width: number, height: number, data: Uint8Array) {
  const xs: number[] = [],
    ys: number[] = []
  for (let i = 0; i < width * height; i++)
    if (data[i]) {
      xs.push(i % width)
      ys.push(Math.floor(i / width))
    }
  if (!xs.length) return null
  const x = Math.min(...xs),
    y = Math.min(...ys)
  return { x, y, width: Math.max(...xs) - x + 1, height: Math.max(...ys) - y + 1 }
}

it('the box around what is covered is the same as pixel by pixel, wherever the bytes lie in memory', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 23 }),
      fc.integer({ min: 1, max: 17 }),
      fc.array(fc.tuple(fc.nat(), fc.integer({ min: 1, max: 255 })), { maxLength: 6 }),
      fc.integer({ min: 0, max: 3 }),
      (width, height, covered, offset) => {
        const data = new Uint8Array(new ArrayBuffer(width * height + 4), offset, width * height)
        for (const [at, value] of covered) data[at % data.length] = value
        expect(boundsOf({ width, height, data })).toEqual(plainBounds(width, height, data))
      },
    ),
    { numRuns: 1000 },
  )
})
