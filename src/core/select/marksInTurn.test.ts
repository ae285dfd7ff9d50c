/** Marks that are set one after another: each corrects what was there before it. */
import { describe, expect, it } from 'vitest'
import fc from '../../../tests/properties'
import { parseStep } from '../formats/recipe'
import { overlap } from '../matting/errors'
import { type Matte } from '../raster/picture'
import { type Context } from './finder'
import { plainContext, sceneOf } from './onePicture'
import { foldSteps } from './steps'
import { disc, dots, found, HEIGHT, loose, paint, run, thing, truth, wide, WIDTH } from '../../../tests/setups/thing'

interface Placed {
  readonly at: readonly [number, number]
  readonly keeps: boolean
}

/** The marks that were set first, each in a turn of its own. */
function marksOf(set: readonly Placed[], outline?: typeof loose) {
  const marks = (keeps: boolean) =>
    set.flatMap((mark, n) => (mark.keeps === keeps ? [{ ...dots(mark.at)[0], turn: n + (outline ? 1 : 0) }] : []))
  return { kind: 'marks', keep: marks(true), drop: marks(false), ...(outline ? { outline } : {}) }
}
/** Four things of different colours on a wall, the first of them in two. */
const things = paint((x, y) => {
  const cell = (cx: number, cy: number) => Math.hypot(x - cx, y - cy) < 40
  if (cell(90, 70)) return y < 70 ? [200, 80, 60] : [60, 90, 190]
  if (cell(270, 70)) return [200, 90, 70]
  if (cell(90, 175)) return [70, 150, 80]
  if (cell(270, 175)) return [220, 200, 90]
  return [150 + x / 12, 150, 150 - y / 12]
})
const answer = (step: object, context: Context, picture = things): Matte =>
  foldSteps([parseStep(step)], sceneOf(picture), context)
const place = fc.tuple(fc.integer({ min: 10, max: WIDTH - 11 }), fc.integer({ min: 10, max: HEIGHT - 11 }))
const someMarks = fc.array(fc.record({ at: place, keeps: fc.boolean() }), { minLength: 2, maxLength: 5 })

describe('marks in turn', () => {
  it('a keep mark takes nothing away, a drop mark adds nothing, wherever they are set', () => {
    fc.assert(
      fc.property(someMarks, fc.boolean(), (set, outlined) => {
        const outline = outlined ? loose : undefined,
          context = { ...plainContext(), draft: true }
        // After no mark there is what the outline alone finds; without one nothing is found before the first mark to keep.
        const answers = [...set, null].map((_, n) => answer(marksOf(set.slice(0, n), outline), context).data),
          first = outlined ? 0 : set.findIndex(({ keeps }) => keeps) + 1
        const marked = (n: number, i: number) =>
          set.slice(0, n + 1).some(({ at: [x, y] }) => Math.hypot((i % WIDTH) - x, Math.floor(i / WIDTH) - y) < 12)
        for (let n = outlined || first ? first : set.length; n < set.length; n++) {
          const before = answers[n],
            wrong = answers[n + 1].findIndex(
              (v, i) => (set[n].keeps ? v < before[i] : v > before[i]) && !marked(n, i), // what is marked is as marked
            )
          expect(wrong).toBe(-1)
        }
      }),
      { numRuns: 5 },
    )
  })
  it('the answer does not depend on what was remembered', () => {
    const set: Placed[] = [
      { at: [90, 50], keeps: true },
      { at: [90, 95], keeps: true },
      { at: [270, 70], keeps: false },
    ]
    const warm = plainContext()
    for (let n = 1; n < set.length; n++) answer(marksOf(set.slice(0, n)), warm)
    expect(answer(marksOf(set), warm).data).toEqual(answer(marksOf(set), plainContext()).data)
  })
  it('marks without a turn are of the first, and decide together', () => {
    const marks = { kind: 'marks', keep: dots([90, 50], [90, 95]), drop: dots([270, 70]) },
      zero = (list: object[]) => list.map((mark) => ({ ...mark, turn: 0 }))
    expect(answer({ ...marks, keep: zero(marks.keep), drop: zero(marks.drop) }, plainContext()).data).toEqual(
      answer(marks, plainContext()).data,
    )
  })
  it('a drop mark before anything is kept waits for what is', () => {
    const { matte } = run(things, marksOf([{ at: [270, 70], keeps: false }, { at: [270, 175], keeps: true }])) // prettier-ignore
    expect(matte.data[175 * WIDTH + 270]).toBe(255)
    expect(matte.data[70 * WIDTH + 270]).toBe(0)
  })
  it('within an outline marks go on from what the outline alone finds', () => {
    const alone = run(thing, { kind: 'marks', outline: wide }).matte
    expect(overlap(alone, truth)).toBeGreaterThan(0.95)
    const less = run(thing, marksOf([{ at: [180, 120], keeps: false }], wide)).matte
    expect(found(less)).toBeLessThan(found(alone))
    const more = run(thing, marksOf([{ at: [180, 120], keeps: true }], wide)).matte
    expect(overlap(more, truth)).toBeGreaterThan(0.95)
    for (const [x, y] of disc) expect(more.data[Math.round(120 + (y - 120) * 1.25) * WIDTH + Math.round(180 + (x - 180) * 1.25)]).toBe(0) // prettier-ignore
  })
  it('an outline and what to drop in it need nothing marked to be kept', () => {
    const drop = dots([20, 20], [120, 60]),
      all = { kind: 'marks', outline: wide, drop }
    expect(overlap(run(thing, all).matte, truth)).toBeGreaterThan(0.95)
    expect(overlap(run(thing, all, false).matte, truth)).toBeGreaterThan(0.9)
    expect(overlap(run(thing, { ...all, keep: dots([-90, -90]) }).matte, truth)).toBeGreaterThan(0.95)
  })
  it('what fills the outline, with nothing around it, is said', () => {
    const all: [number, number][] = [[0, 0], [WIDTH, 0], [WIDTH, HEIGHT], [0, HEIGHT]] // prettier-ignore
    expect(run(things, { kind: 'marks', outline: all }, false).note).toMatch(/leaves nothing around it/)
  })
})
