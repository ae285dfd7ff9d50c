import { describe, expect, it } from 'vitest'
import fc from '../../../tests/properties'
import { type Point } from './fill'
import { mostAgreed } from './mostAgreed'

/** An arc over the line from (0, 0) to (100, 0), so many px high in the middle. */
const arc = (high: number, count = 40): Point[] =>
  Array.from({ length: count }, (_, k) => {
    const share = k / (count - 1)
    return [100 * share, 4 * high * share * (1 - share)]
  })

describe('the way the others agree with', () => {
  it('of two, or one alone, is the first', () => {
    expect(mostAgreed([arc(9), arc(0)])).toEqual(arc(9))
    expect(mostAgreed([arc(5)])).toEqual(arc(5))
  })
  it('lies between the others, in whichever order they come', () => {
    const heights = fc.uniqueArray(fc.integer({ min: -60, max: 60 }), { minLength: 3, maxLength: 3 })
    fc.assert(
      fc.property(heights, (three) => {
        const [, middle] = three.toSorted((a, b) => a - b)
        expect(mostAgreed(three.map((high) => arc(high)))).toEqual(arc(middle))
      }),
    )
  })
  it('does not depend on how many points ways have, nor on where these are dense', () => {
    const dense = [...arc(0, 3), [100, 0] as Point],
      along: Point[] = [...Array.from({ length: 300 }, (_, k): Point => [k / 100, 1]), [100, 1]]
    expect(mostAgreed([arc(20, 200), along, dense])).toBe(along)
    expect(mostAgreed([arc(20, 4), dense, arc(19, 400)])).not.toBe(dense)
  })
  it('of equals is the first', () => {
    const one = arc(3),
      other = arc(3)
    expect(mostAgreed([arc(40), one, other])).toBe(one)
  })
})
