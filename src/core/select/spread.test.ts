import { describe, expect, it } from 'vitest'
import fc from '../../../tests/properties'
import { HEIGHT, paint, run, thing, WIDTH } from '../../../tests/setups/thing'
import { coverMarks } from '../segment/strokes'

const someStrokes = fc.array(
  fc.record({
    points: fc.array(fc.tuple(fc.integer({ min: 10, max: 350 }), fc.integer({ min: 10, max: 230 })), {
      minLength: 1,
      maxLength: 3,
    }),
    size: fc.integer({ min: 4, max: 40 }),
    mode: fc.constantFrom('keep' as const, 'drop' as const),
  }),
  { minLength: 2, maxLength: 4 },
)
const first = { points: [[180, 120] as const], size: 20, mode: 'keep' as const }

describe('spread', () => {
  it('drop strokes of spread take away what they touch', () => {
    const two = paint((x, y) =>
      Math.hypot(x - 100, y - 120) < 50
        ? [180, 60, 60]
        : Math.hypot(x - 240, y - 120) < 50
          ? [60, 160, 80]
          : [150, 150, 160],
    )
    const stroke = {
        points: [
          [100, 120],
          [240, 120],
        ],
        size: 10,
        mode: 'keep',
      },
      drop = {
        points: [
          [225, 110],
          [255, 130],
        ],
        size: 20,
        mode: 'drop',
      }
    const { matte } = run(two, { kind: 'spread', strokes: [stroke, drop] })
    expect(matte.data[105 * WIDTH + 100]).toBe(255)
    expect(matte.data[120 * WIDTH + 240]).toBe(0)
  })

  it('strokes of spread hold what they touch: keeping never lowers it, dropping never raises it', () => {
    fc.assert(
      fc.property(someStrokes, (drawn) => {
        const strokes = [first, ...drawn],
          before = run(thing, { kind: 'spread', strokes: strokes.slice(0, -1) }).matte,
          after = run(thing, { kind: 'spread', strokes }).matte,
          last = strokes.at(-1)!
        const touched = coverMarks([last], { x: 0, y: 0, width: WIDTH, height: HEIGHT }, 0, thing).data
        const keeps = last.mode === 'keep'
        expect(
          touched.every(
            (v, i) => v < 255 || (keeps ? after.data[i] >= before.data[i] : after.data[i] <= before.data[i]),
          ),
        ).toBe(true)
      }),
      { numRuns: 3 },
    )
  })

  it('strokes that take away add nothing, and those that add again lose nothing, wherever they lie', () => {
    fc.assert(
      fc.property(someStrokes, (drawn) => {
        const strokes = [first, ...drawn],
          after = strokes.findLastIndex(({ mode }) => mode !== strokes.at(-1)!.mode) + 1
        fc.pre(after > 0)
        const selected = (n: number) => {
          const { data } = run(thing, { kind: 'spread', smoothEdge: false, strokes: strokes.slice(0, n) }).matte
          return data.map((v) => (v >= 128 ? 1 : 0))
        }
        const before = selected(after),
          now = selected(strokes.length),
          keeps = strokes.at(-1)!.mode === 'keep'
        expect(now.findIndex((v, i) => (keeps ? v < before[i] : v > before[i]))).toBe(-1)
      }),
      { numRuns: 6 },
    )
  })
})
