/** Marks in turn at full size: what a turn did not change stays as it was, to the pixel. */
import { describe, expect, it } from 'vitest'
import fc from '../../../tests/properties'
import { dots, loose, paint, HEIGHT, WIDTH } from '../../../tests/setups/thing'
import { LruCache } from '../cache/lruCache'
import '../network/withWeights'
import { halvePicture } from '../raster/levels'
import { type Picture } from '../raster/picture'
import { type MarksFields } from '../steps/marks'
import { INSIDE } from './gridCut'
import { labPlanes } from './labPlanes'
import { decideInTurn } from './inTurn'
import { turnsOfMarks } from './marksInTurn'
import { packed, unpacked } from './packedState'
import { wholeOf, type SegmentView } from './view'

/** Four things on a wall, thought on at a quarter of their size: what is carried to full size is decided anew along every outline. */
const things = paint((x, y) => {
  const cell = (cx: number, cy: number) =>
    Math.hypot(x - cx, y - cy) < 40 + 6 * Math.sin(Math.atan2(y - cy, x - cx) * 9)
  if (cell(90, 70)) return y < 70 ? [200, 80, 60] : [60, 90, 190]
  if (cell(270, 70)) return [200, 90, 70]
  if (cell(90, 175)) return [70, 150, 80]
  if (cell(270, 175)) return [220, 200, 90]
  return [150 + x / 12, 150, 150 - y / 12]
}, 25)
/** A faint thing to the left, one of its own colour to the right. */
const faint = paint((x, y) => {
  if (Math.hypot(x - 90, y - 70) < 46) return [150 + x / 3, 140, 150 - y / 2]
  if (Math.hypot(x - 270, y - 175) < 46) return [110, 150, 190]
  return [150 + x / 12, 150, 150 - y / 12]
}, 40)
function viewOf(picture: Picture): SegmentView {
  const half = halvePicture(picture),
    quarter = halvePicture(half)
  return { frame: wholeOf(picture), levels: [picture, half, quarter], lab: labPlanes(quarter) }
}
/** A large part and a small one, joined by a bar. */
const joined = paint((x, y) =>
  Math.hypot((x - 110) / 1.3, y - 125) < 62 ||
  Math.hypot(x - 275, y - 125) < 34 ||
  (Math.abs(y - 125) < 5 && x > 110 && x < 275)
    ? [170, 130, 90]
    : [150 + x / 12, 150, 150 - y / 12],
)
const [ofThings, ofFaint, ofJoined] = [viewOf(things), viewOf(faint), viewOf(joined)]

interface Placed {
  readonly at: readonly [number, number]
  readonly keeps: boolean
}
const marksOf = (set: readonly Placed[], outlined: boolean): MarksFields => {
  const marks = (keeps: boolean) =>
    set.flatMap((mark, n) => (mark.keeps === keeps ? [{ ...dots(mark.at)[0], turn: n + 1 }] : []))
  return { keep: marks(true), drop: marks(false), unsure: [], solver: 'auto', ...(outlined ? { outline: loose } : {}) }
}
const decide = (set: readonly Placed[], outlined = false, memory = new LruCache(1e8), view = ofThings): Uint8Array =>
  decideInTurn(turnsOfMarks(marksOf(set, outlined), view, 'things'), view, { memory, check: () => {} })!
const place = fc.tuple(fc.integer({ min: 10, max: WIDTH - 11 }), fc.integer({ min: 10, max: HEIGHT - 11 })),
  someMarks = fc.array(fc.record({ at: place, keeps: fc.boolean() }), { minLength: 2, maxLength: 5 })

describe('marks in turn at full size', () => {
  it('a keep mark takes nothing away, a drop mark adds nothing, wherever they are set', () => {
    fc.assert(
      fc.property(someMarks, fc.boolean(), (set, outlined) => {
        const first: Placed[] = outlined ? [] : [{ at: [90, 50], keeps: true }],
          all = [...first, ...set],
          memory = new LruCache(1e8),
          marked = (n: number, i: number) =>
            all.slice(0, n + 1).some(({ at: [x, y] }) => Math.hypot((i % WIDTH) - x, Math.floor(i / WIDTH) - y) < 9)
        let before = decide(first, outlined, memory)
        for (let n = first.length; n < all.length; n++) {
          const after = decide(all.slice(0, n + 1), outlined, memory),
            wrong = after.findIndex(
              (side, i) => side !== before[i] && (side === INSIDE) !== all[n].keeps && !marked(n, i),
            )
          expect(wrong).toBe(-1)
          before = after
        }
      }),
      { numRuns: 5 },
    )
  })
  it('far from what a turn changed nothing changes, though its colours are others', () => {
    const set: Placed[] = [
        { at: [90, 50], keeps: true },
        { at: [270, 175], keeps: true },
        { at: [270, 200], keeps: false },
      ],
      [before, after] = [2, 3].map((n) => decide(set.slice(0, n), false, undefined, ofFaint))
    const changed = [...after.keys()].filter((i) => after[i] !== before[i])
    expect(changed.length).toBeGreaterThan(0)
    expect(changed.filter((i) => i % WIDTH < 170)).toEqual([])
  })
  it('a mark that corrects leaves what lies far away, though it hangs together with what is taken away', () => {
    const set: Placed[] = [
        { at: [90, 125], keeps: true },
        { at: [153, 134], keeps: false },
      ],
      [before, after] = [1, 2].map((n) => decide(set.slice(0, n), false, undefined, ofJoined)),
      small = [...before.keys()].filter((i) => Math.hypot((i % WIDTH) - 275, Math.floor(i / WIDTH) - 125) < 30)
    expect(small.filter((i) => before[i] !== INSIDE)).toEqual([])
    expect(small.filter((i) => after[i] !== INSIDE)).toEqual([])
    expect(after).not.toEqual(before)
  })
  it('the answer does not depend on what was remembered', () => {
    const set: Placed[] = [
        { at: [90, 50], keeps: true },
        { at: [270, 70], keeps: true },
        { at: [90, 95], keeps: true },
        { at: [270, 90], keeps: false },
      ],
      memory = new LruCache(1e8)
    for (let n = 1; n < set.length; n++) decide(set.slice(0, n), false, memory)
    expect(decide(set, false, memory)).toEqual(decide(set))
  })
})

it('a decided picture packed into bits is the same again', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom(1, 2)), (sides) => {
      const state = Uint8Array.from(sides)
      expect(unpacked(packed(state))).toEqual(state)
    }),
  )
})
