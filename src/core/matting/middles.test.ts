import { describe, expect, it } from 'vitest'
import fc from '../../../tests/properties'
import { parseStep } from '../formats/recipe'
import { type Matte, type Picture } from '../raster/picture'
import { plainContext, sceneOf } from '../select/onePicture'
import { foldSteps } from '../select/steps'
import { bandAlong } from './band'
import { keepMiddles } from './middles'

const WIDTH = 300,
  HEIGHT = 200
/** Dark where `on`, before a light ground; with some grain. */
function drawn(on: (x: number, y: number) => boolean): { picture: Picture; matte: Matte } {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4),
    coverage = new Uint8Array(WIDTH * HEIGHT)
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i++) {
      const grain = ((x * 7919 + y * 104_729) % 13) - 6
      coverage[i] = on(x, y) ? 255 : 0
      ;(on(x, y) ? [60, 40, 30] : [200, 205, 190]).forEach((v, c) => (data[4 * i + c] = v + grain))
      data[4 * i + 3] = 255
    }
  return { picture: { width: WIDTH, height: HEIGHT, data }, matte: { width: WIDTH, height: HEIGHT, data: coverage } }
}
const solved = ({ picture }: { picture: Picture }, outline: [number, number][], reach: number): Matte =>
  foldSteps(
    [parseStep({ kind: 'polygon', points: outline }), parseStep({ kind: 'edge', reach })],
    sceneOf(picture, 'thin', new Map()),
    plainContext(),
  )

describe('the middles of thin things', () => {
  it('a bar thinner than the band stays, whatever the reach', () => {
    const bar = drawn((x, y) => x >= 146 && x < 154 && y >= 20 && y < 180)
    for (const reach of [3, 6, 12, 40]) {
      const { data } = solved(bar, [[146, 20], [154, 20], [154, 180], [146, 180]], reach) // prettier-ignore
      expect(data[100 * WIDTH + 150], `reach ${reach}`).toBe(255)
      expect(data[100 * WIDTH + 147], `reach ${reach}`).toBeGreaterThan(200)
      expect(data[100 * WIDTH + 141], `reach ${reach}`).toBeLessThan(40)
    }
  })
  it('every part of a thin thing that narrows and bends keeps something known, and so does a thin gap', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1.5, max: 9, noNaN: true }),
        fc.double({ min: 0, max: 40, noNaN: true }),
        fc.integer({ min: 12, max: 30 }),
        fc.boolean(),
        (half, bend, reach, gap) => {
          const middle = (x: number) => 100 + bend * Math.sin(x / 40),
            width = (x: number) => half * (1 - x / (1.5 * WIDTH)),
            { matte } = drawn((x, y) => Math.abs(y - middle(x)) <= width(x) !== gap)
          const open = bandAlong(matte, reach),
            before = open.slice()
          keepMiddles(matte, open, reach)
          const own = (i: number) => matte.data[i] > 127 !== gap,
            known = Array.from({ length: WIDTH }, (_, x) => {
              let count = 0
              for (let i = x; i < open.length; i += WIDTH) if (own(i) && !open[i]) count++
              return count
            })
          // Nowhere is it far to what is known; and that is thin.
          for (let x = 0; x < WIDTH; x++)
            expect(Math.max(...known.slice(Math.max(0, x - reach), x + reach + 1))).toBeGreaterThan(0)
          expect(known.reduce((sum, count) => sum + count, 0)).toBeLessThan(3 * WIDTH)
          expect(open.every((v, i) => !v || before[i] === 1)).toBe(true)
        },
      ),
      { numRuns: 15 },
    )
  })
  it('what is wide enough is left as it is', () => {
    const { matte } = drawn((x, y) => Math.hypot(x - 150, y - 100) < 60),
      open = bandAlong(matte, 12),
      before = open.slice()
    keepMiddles(matte, open, 12)
    expect(open).toEqual(before)
  })
})
