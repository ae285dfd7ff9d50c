import { describe, expect, it } from 'vitest'
import { parseStep } from './recipe'

describe('fields of earlier versions', () => {
  it('a sky says what it said before: moved and softened as every step is, openings and twigs in px', () => {
    expect(parseStep({ kind: 'sky', offset: -3, blend: 0.3, fillGaps: 0.1, detail: 0.3 })).toEqual(
      parseStep({ kind: 'sky', grow: -3, feather: 1.8, openings: 300, twigs: 1 }),
    )
    expect(parseStep({ kind: 'sky', offset: 0, blend: 0, fillGaps: 0, detail: 0 })).toEqual(
      parseStep({ kind: 'sky', openings: 0, twigs: 5 }),
    )
    expect(parseStep({ kind: 'sky', fillGaps: 1, detail: 1 })).toEqual(parseStep({ kind: 'sky' }))
  })
  it('a live wire looks as far, and sees the same edges', () => {
    expect(parseStep({ kind: 'liveWire', anchors: [[1, 2]], width: 16, contrast: 0.1 })).toEqual(
      parseStep({ kind: 'liveWire', anchors: [[1, 2]], reach: 16, edgeGradient: 2.2 }),
    )
    expect(parseStep({ kind: 'liveWire', anchors: [[1, 2]], edgeFrom: 5.5 })).toEqual(
      parseStep({ kind: 'liveWire', anchors: [[1, 2]] }),
    )
  })
  it('a border is a contour', () => {
    expect(parseStep({ kind: 'border', width: 7, hidden: true })).toEqual(
      parseStep({ kind: 'contour', thickness: 7, hidden: true }),
    )
    expect(() => parseStep({ kind: 'border', width: -1 })).toThrow(/thickness: takes/)
  })
  it('one that comes with a change of an older record counts before what stands there; what is no number is refused by its name', () => {
    expect(parseStep({ kind: 'sky', openings: 200, twigs: 2, fillGaps: 0 })).toMatchObject({ openings: 0, twigs: 2 })
    expect(parseStep({ kind: 'sky', fillGaps: 0, openings: 200 })).toMatchObject({ openings: 0 })
    expect(() => parseStep({ kind: 'sky', blend: 'soft' })).toThrow(/blend: sky has no such field/)
  })
})
