import fc from '../../../tests/properties'
import { expect, it } from 'vitest'
import { IN, IN_EDGE, markEdges, OUT, OUT_EDGE } from './edgeMarks'
import { outlinePixels } from './outline'

/** Wide, so that its rows come to the kernels in several slices. */
const WIDTH = 9001
const sides = fc
  .tuple(fc.integer({ min: 1, max: 70 }), fc.integer(), fc.integer({ min: 1, max: 40 }))
  .map(([height, seed, grain]) => ({
    width: WIDTH,
    height,
    /** Patches of both sides, of other sizes each time. */
    inside: Uint8Array.from({ length: WIDTH * height }, (_, i) => {
      const x = Math.floor((i % WIDTH) / grain),
        y = Math.floor(i / WIDTH / Math.ceil(grain / 8)),
        v = Math.imul(x * 31 + y * 17 + seed, 0x9e3779b1)
      return (v ^ (v >>> 15)) & 4 ? 1 : 0
    }),
  }))
/** Whether a pixel lies beside one of the other side: the definition, pixel by pixel. */
function besideOther(inside: Uint8Array, height: number, i: number): boolean {
  const x = i % WIDTH,
    y = Math.floor(i / WIDTH)
  return (
    (x > 0 && inside[i - 1] !== inside[i]) ||
    (x < WIDTH - 1 && inside[i + 1] !== inside[i]) ||
    (y > 0 && inside[i - WIDTH] !== inside[i]) ||
    (y < height - 1 && inside[i + WIDTH] !== inside[i])
  )
}

const bytesOf = ({ buffer, byteOffset, byteLength }: Int32Array | Uint32Array) =>
  new Uint8Array(buffer, byteOffset, byteLength)

it('marks edges as the definition does, from decisions and from marks of every kind, across slices', () => {
  fc.assert(
    fc.property(sides, fc.boolean(), fc.boolean(), ({ width, height, inside }, soft, fromMarks) => {
      const source = inside.map((side, i) =>
          fromMarks ? (side ? (i % 3 ? IN : IN_EDGE) : i % 3 ? OUT : OUT_EDGE) : side ? 2 : 1,
        ),
        marks = new Uint8Array(inside.length),
        edge = markEdges(source, fromMarks ? 'marks' : 'decisions', { width, height }, soft, (rows, first) =>
          marks.set(rows, first),
        )
      const wanted = inside.map((side, i) =>
        soft && besideOther(inside, height, i) ? (side ? IN_EDGE : OUT_EDGE) : side ? IN : OUT,
      )
      expect(Buffer.compare(marks, wanted)).toBe(0)
      const on: number[] = []
      for (let i = 0; i < wanted.length; i++) if (wanted[i] === IN_EDGE || wanted[i] === OUT_EDGE) on.push(i)
      expect(Buffer.compare(bytesOf(Int32Array.from(on)), bytesOf(edge))).toBe(0)
    }),
    { numRuns: 12 },
  )
})
it('the outline is the inner side of that edge, at 50 %', () => {
  fc.assert(
    fc.property(sides, ({ width, height, inside }) => {
      const coverage = inside.map((side, i) => (side ? 128 + (i % 128) : i % 128)),
        wanted: number[] = []
      for (let i = 0; i < inside.length; i++) if (inside[i] && besideOther(inside, height, i)) wanted.push(i)
      expect(Buffer.compare(bytesOf(Uint32Array.from(wanted)), bytesOf(outlinePixels(coverage, width, height)))).toBe(0)
    }),
    { numRuns: 12 },
  )
})
