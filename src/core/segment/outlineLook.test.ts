/** A cut looked at once more along its outline, on made-up pictures. */
import { describe, expect, it } from 'vitest'
import { paint, HEIGHT, WIDTH } from '../../../tests/setups/thing'
import '../network/withWeights'
import { withOutlineLookedAt } from './outlineLook'
import { INSIDE, OUTSIDE, UNDECIDED } from './gridCut'
import { labPlanes } from './labPlanes'
import { learnBoth } from './learnColours'
import { type SegmentView, wholeOf } from './view'

/** A jug, lit from the left and dark on its right, before a wall that grows darker too. */
const lies = (x: number, y: number, grown = 0) =>
  Math.hypot((x - 180) / 1.2, y - 120) < 60 + grown || (Math.abs(x - 180) < 22 + grown && y > 40 - grown && y < 90)
const picture = paint((x, y) => {
  const light = Math.max(0.25, 1 - Math.max(0, x - 120) / 160)
  return lies(x, y) ? [205 * light, 150 * light, 110 * light] : [120 - x / 9, 128 - x / 9, 132 - x / 9]
}, 6)
const view: SegmentView = { frame: wholeOf(picture), levels: [picture], lab: labPlanes(picture) }
const sides = (inside: (x: number, y: number) => boolean) =>
  Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) =>
    inside((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5) ? INSIDE : OUTSIDE,
  )
const open = new Uint8Array(WIDTH * HEIGHT).fill(UNDECIDED),
  truth = sides(lies)
const models = learnBoth(
  view.lab,
  Float32Array.from(truth, (side) => (side === INSIDE ? 1 : 0)),
  Float32Array.from(truth, (side) => (side === OUTSIDE ? 1 : 0)),
)
const looked = (state: Uint8Array, given = open) =>
  withOutlineLookedAt({ state, models }, view, given, { check: () => {} }).state
const wrong = (state: Uint8Array) => state.reduce((sum, side, i) => sum + (side === truth[i] ? 0 : 1), 0)

describe('a cut whose outline is looked at once more', () => {
  it.each([
    ['too small', -5],
    ['too large', 5],
  ])('comes back to the edge where it is %s', (_, grown) => {
    const cut = sides((x, y) => lies(x, y, grown))
    expect(wrong(looked(cut))).toBeLessThan(wrong(cut) / 4)
  })
  it('leaves what is right, and what is given', () => {
    expect(wrong(looked(truth))).toBeLessThan(truth.length / 400)
    const cut = sides((x, y) => lies(x, y, -5)),
      given = open.map((_, i) => (i % WIDTH < 180 ? cut[i] : UNDECIDED)),
      there = looked(cut, given)
    for (let i = 0; i < there.length; i++) if (given[i] !== UNDECIDED) expect(there[i]).toBe(cut[i])
  })
  it('is not sure where it is seen otherwise, and not looked at where a rough outline is enough', () => {
    const state = sides((x, y) => lies(x, y, -5)),
      answer = { state, models, sure: new Uint8Array(state.length).fill(1) },
      seen = withOutlineLookedAt(answer, view, open, { check: () => {} })
    expect(seen.sure).toEqual(seen.state.map((side, i) => (side === state[i] ? 1 : 0)))
    expect(seen.sure).toContain(0)
    expect(seen.cut).toEqual(state)
    expect(withOutlineLookedAt(answer, view, open, { rough: true, check: () => {} })).toBe(answer)
  })
  it('has nothing to look at where there is no outline', () => {
    for (const side of [INSIDE, OUTSIDE]) {
      const all = new Uint8Array(WIDTH * HEIGHT).fill(side)
      expect(looked(all)).toEqual(all)
    }
  })
})
