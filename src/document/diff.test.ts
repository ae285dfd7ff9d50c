import fc from '../../tests/properties'
import { describe, expect, it } from 'vitest'
import { applyDiff, type Diff, diffOf, isDiff } from './diff'

const json = fc.letrec((tie) => ({
  value: fc.oneof(
    { maxDepth: 4 },
    fc.constantFrom(null, true, 0, 1, 'a', ''),
    fc.array(tie('value'), { maxLength: 4 }),
    fc.dictionary(fc.constantFrom('a', 'b', 'c'), tie('value'), { maxKeys: 3 }),
    fc.uniqueArray(fc.record({ id: fc.constantFrom('x', 'y', 'z', 'w'), v: tie('value') }), {
      maxLength: 4,
      selector: (entry) => (entry as { id: string }).id,
    }),
  ),
})).value
const plain = (value: unknown) => JSON.parse(JSON.stringify(value)) as unknown

describe('changes', () => {
  it('the change between two states makes the second of the first, and its inverse the first of the second', () => {
    fc.assert(
      fc.property(json, json, (rawA, rawB) => {
        const a = plain(rawA),
          b = plain(rawB),
          forward = diffOf(a, b)
        if (!forward) expect(a).toEqual(b)
        else {
          // As it travels: through JSON.
          const sent = plain(forward) as Diff
          expect(isDiff(sent)).toBe(true)
          expect(applyDiff(a, sent)).toEqual(b)
          expect(applyDiff(b, diffOf(b, a)!)).toEqual(a)
        }
      }),
      { numRuns: 500 },
    )
  })
  it('changes of different entries and fields both stand, whichever comes first', () => {
    const base = {
      name: 'n',
      layers: [
        { id: 'a', x: 1, y: 1 },
        { id: 'b', x: 1 },
      ],
    }
    const mine = { name: 'n', layers: [{ id: 'a', x: 2, y: 1 }, { id: 'b', x: 1 }, { id: 'mine' }] }
    const theirs = { name: 'theirs', layers: [{ id: 'a', x: 1, y: 5 }, { id: 'theirs' }, { id: 'b', x: 1 }] }
    const both = {
      name: 'theirs',
      layers: [{ id: 'a', x: 2, y: 5 }, { id: 'theirs' }, { id: 'b', x: 1 }, { id: 'mine' }],
    }
    expect(applyDiff(theirs, diffOf(base, mine)!)).toEqual(both)
    expect(applyDiff(mine, diffOf(base, theirs)!)).toEqual(both)
  })
  it('of the same field the one applied later stands; what is gone is passed over', () => {
    const base = { layers: [{ id: 'a', x: 1 }] }
    expect(applyDiff({ layers: [{ id: 'a', x: 2 }] }, diffOf(base, { layers: [{ id: 'a', x: 3 }] })!)).toEqual({
      layers: [{ id: 'a', x: 3 }],
    })
    expect(applyDiff({ layers: [] }, diffOf(base, { layers: [{ id: 'a', x: 3 }] })!)).toEqual({ layers: [] })
  })
  it('two strokes added at once are both there; a stroke more is a stroke, not all of them', () => {
    const strokes = Array.from({ length: 400 }, (_, i) => ({ points: [[i, i]], size: 4 }))
    const mine = { strokes: [...strokes, { points: [[1, 2]], size: 5 }] },
      theirs = { strokes: [...strokes, { points: [[3, 4]], size: 6 }] }
    const change = diffOf({ strokes }, mine)!
    expect(JSON.stringify(change).length).toBeLessThan(120)
    expect((applyDiff(theirs, change) as typeof mine).strokes).toHaveLength(402)
  })
  it('an entry moved is told by the order, and one that another tab added stays behind its neighbour', () => {
    const base = ['a', 'b', 'c'].map((id) => ({ id })),
      mine = ['c', 'a', 'b'].map((id) => ({ id })),
      theirs = ['a', 'b', 'new', 'c'].map((id) => ({ id }))
    expect((applyDiff(theirs, diffOf(base, mine)!) as { id: string }[]).map((e) => e.id)).toEqual([
      'c',
      'a',
      'b',
      'new',
    ])
  })
  it('what has not the form of a change is told', () => {
    for (const wrong of [
      null,
      [],
      {},
      { to: 1, run: {} },
      { run: { at: -1, remove: 0, add: [] } },
      { entries: { add: [['x', 1]] } },
      { fields: { in: { a: 3 } } },
    ])
      expect(isDiff(wrong)).toBe(false)
    let deep: unknown = { to: 1 }
    for (let i = 0; i < 100; i++) deep = { fields: { in: { a: deep } } }
    expect(isDiff(deep)).toBe(false)
  })
})
