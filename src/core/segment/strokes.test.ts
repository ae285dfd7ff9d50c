import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { type Mark } from '../fields/marks'
import { boxOfMarks, coverMarks } from './strokes'

const SIZE = { width: 60, height: 44 }
const place = fc.tuple(fc.double({ min: -80, max: 200, noNaN: true }), fc.double({ min: -80, max: 160, noNaN: true })),
  marks: fc.Arbitrary<Mark[]> = fc.array(
    fc.record({ points: fc.array(place, { maxLength: 4 }), size: fc.double({ min: 0, max: 90, noNaN: true }) }),
    { maxLength: 3 },
  )

describe('the box of marks', () => {
  it('holds all that they cover, at every level; what is covered from within it is the same', () => {
    fc.assert(
      fc.property(marks, fc.integer({ min: 0, max: 3 }), (marks, level) => {
        const frame = { x: 7, y: 13, width: SIZE.width << level, height: SIZE.height << level },
          box = boxOfMarks(marks, frame, level, SIZE),
          whole = coverMarks(marks, frame, level, SIZE).data,
          part = coverMarks(
            marks,
            { ...box, x: frame.x + box.x * 2 ** level, y: frame.y + box.y * 2 ** level },
            level,
            box,
          ).data
        let off = 0
        for (let y = 0, i = 0; y < SIZE.height; y++)
          for (let x = 0; x < SIZE.width; x++, i++) {
            const [u, v] = [x - box.x, y - box.y],
              within = u >= 0 && v >= 0 && u < box.width && v < box.height
            off = Math.max(off, Math.abs(whole[i] - (within ? part[v * box.width + u] : 0)))
          }
        expect(off).toBeLessThanOrEqual(1)
      }),
    )
  })
})
