import { describe, expect, it } from 'vitest'
import { parseStep } from '../formats/recipe'
import { foldSteps } from '../select/steps'
import { sceneOf } from '../select/onePicture'
import { LruCache } from '../cache/lruCache'
import { type Matte } from '../raster/picture'
import { acrossEdge } from './profile'
import { crossingsOf, type EdgeShape, shapedProfile, shapeOfWidth } from './profileShape'

const SIZE = 240,
  REACH = 30
/** A disc whose coverage falls from 1 to 0 over `soft` px. */
function disc(soft: number): Matte {
  const data = new Uint8Array(SIZE * SIZE)
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++) {
      const out = Math.hypot(x + 0.5 - SIZE / 2, y + 0.5 - SIZE / 2) - 80
      data[y * SIZE + x] = Math.round(255 * Math.max(0, Math.min(1, 0.5 - out / soft)))
    }
  return { width: SIZE, height: SIZE, data }
}

describe('the edge seen across', () => {
  it('is one deep inside, zero far outside, and falls over as many px as the matte does', () => {
    const profile = acrossEdge(disc(10), REACH)!
    expect(profile[0]).toBeCloseTo(1, 3)
    expect(profile[2 * REACH]).toBeCloseTo(0, 3)
    const { inner, middle, outer } = crossingsOf(profile)
    // The line that is followed is that of a blurred matte: a disc's shrinks a little.
    expect(Math.abs(middle)).toBeLessThan(0.3)
    expect(Math.abs(outer - inner - 8)).toBeLessThan(0.5) // 90 to 10 % of a straight fall
  })
  it('nothing selected, and everything, have none', () => {
    expect(acrossEdge({ width: 40, height: 40, data: new Uint8Array(1600) }, 5)).toBeNull()
  })
  it.each<EdgeShape>([
    { feather: 8, crispness: 0, offset: 0 },
    { feather: 0, crispness: 0.6, offset: 0 },
    { feather: 0, crispness: 0, offset: 5 },
    { feather: 6, crispness: 0.3, offset: -4 },
  ])('what it comes to is foretold as the edge step makes it: %o', (shape) => {
    const scene = sceneOf({ width: SIZE, height: SIZE, data: new Uint8ClampedArray(4 * SIZE * SIZE).fill(200) }, 'grey')
    const made = (values: object) =>
      foldSteps(
        [
          parseStep({ kind: 'ellipse', x: 40, y: 40, width: 160, height: 160, feather: 9 }),
          parseStep({ kind: 'edge', reach: 0, ...values }),
        ],
        scene,
        { memory: new LruCache(1e8), check: () => {} },
      )
    // Seen from the same line: the moved edge is looked at from where it was.
    const before = acrossEdge(made({}), REACH)!,
      foretold = shapedProfile(before, shape),
      after = acrossEdge(made(shape), REACH)!,
      moved = crossingsOf(after).middle
    expect(Math.abs(moved)).toBeLessThan(0.5)
    const shifted = shapedProfile(after, { feather: 0, crispness: 0, offset: shape.offset - moved })
    for (let i = 8; i < foretold.length - 8; i++) expect(Math.abs(foretold[i] - shifted[i])).toBeLessThan(0.08)
  })
  it('the values that make it so wide make it so wide', () => {
    const profile = acrossEdge(disc(10), REACH)!
    for (const width of [3, 6, 12, 20]) {
      const { inner, outer } = crossingsOf(shapedProfile(profile, { ...shapeOfWidth(profile, width), offset: 0 }))
      expect(Math.abs(outer - inner - width)).toBeLessThan(0.7)
    }
  })
})
