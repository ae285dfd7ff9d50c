import { describe, expect, it } from 'vitest'
import { type Colour, paint, run, WIDTH } from '../../../tests/setups/thing'

describe('sky', () => {
  it('sky is found between branches, not in the water that mirrors it, and a wire stays', () => {
    const sky: Colour = [205, 212, 222]
    const land = paint(
      (x, y) =>
        y > 190 ? [196, 204, 214] : y > 130 ? [70, 80, 60] : (x % 40 < 3 && y > 40) || y === 60 ? [40, 38, 36] : sky,
      3,
    )
    const { matte, note } = run(land, { kind: 'sky' })
    expect(matte.data[100 * WIDTH + 20]).toBe(255) // between branches
    expect(matte.data[100 * WIDTH + 41]).toBeLessThan(128) // a branch
    expect(matte.data[60 * WIDTH + 20]).toBeLessThan(128) // a wire of one pixel
    expect(matte.data[220 * WIDTH + 180]).toBe(0) // water
    expect(note).toMatch(/^The sky is 5\d % of the picture\.$/)
  })

  it('of a sky that is less than a fifth of the picture it says so', () => {
    const { note } = run(
      paint((_, y) => (y < 24 ? [205, 212, 222] : [80, 76, 60]), 3),
      { kind: 'sky' },
    )
    expect(note).toMatch(/^The sky is \d+ % of the picture: below a fifth, a new sky will look odd\.$/)
  })
})
