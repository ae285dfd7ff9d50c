import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { COMBINE_OPS, combineInto, invertInto, type CombineOp } from './coverage'

const SIZE = 23
const matte = fc.uint8Array({ minLength: SIZE, maxLength: SIZE }).map((data) => ({ width: SIZE, height: 1, data }))
type M = { width: number; height: number; data: Uint8Array }
const copy = (m: M): M => ({ ...m, data: m.data.slice() })
const combined = (a: M, s: M, op: CombineOp) => {
  const out = copy(a)
  combineInto(out, s, op)
  return out.data
}
const inverted = (a: M): M => {
  const out = copy(a)
  invertInto(out)
  return out
}
const max = (d: Uint8Array) => Math.max(...d)

describe('combining coverage', () => {
  it('a shape added to or intersected with itself is itself; subtracted from itself leaves nothing', () => {
    fc.assert(
      fc.property(matte, (a) => {
        expect(combined(a, a, 'add')).toEqual(a.data)
        expect(combined(a, a, 'intersect')).toEqual(a.data)
        expect(max(combined(a, a, 'subtract'))).toBe(0)
      }),
    )
  })
  it('inverting twice changes nothing', () => {
    fc.assert(
      fc.property(matte, (a) => {
        expect(inverted(inverted(a)).data).toEqual(a.data)
      }),
    )
  })
  it('adding and intersecting do not care about order or grouping', () => {
    fc.assert(
      fc.property(matte, matte, matte, fc.constantFrom<CombineOp>('add', 'intersect'), (a, b, c, op) => {
        expect(combined(a, b, op)).toEqual(combined(b, a, op))
        const left = { ...a, data: combined({ ...a, data: combined(a, b, op) }, c, op) }
        expect(left.data).toEqual(combined(a, { ...b, data: combined(b, c, op) }, op))
      }),
    )
  })
  it('De Morgan: the inverse of a union is the intersection of the inverses', () => {
    fc.assert(
      fc.property(matte, matte, (a, b) => {
        expect(inverted({ ...a, data: combined(a, b, 'add') }).data).toEqual(
          combined(inverted(a), inverted(b), 'intersect'),
        )
      }),
    )
  })
  it('never makes more of less: subtracting and intersecting stay below, adding stays above', () => {
    fc.assert(
      fc.property(matte, matte, fc.constantFrom(...COMBINE_OPS), (a, b, op) => {
        combined(a, b, op).forEach((v, i) =>
          op === 'add' ? expect(v).toBeGreaterThanOrEqual(a.data[i]) : expect(v).toBeLessThanOrEqual(a.data[i]),
        )
      }),
    )
  })
  it('refuses mattes of different sizes in words', () => {
    expect(() =>
      combineInto(
        { width: 2, height: 1, data: new Uint8Array(2) },
        { width: 3, height: 1, data: new Uint8Array(3) },
        'add',
      ),
    ).toThrow('2×1 and 3×1')
  })
})
