import { describe, expect, it } from 'vitest'
import { parseStep } from '@/core/formats/recipe'
import { inTodaysWords, wiresAsStored } from './earlierWords'
import { applyChange } from './history'
import { type Project } from './records'

describe('names of earlier versions', () => {
  it('are read in changes wherever they stand: fields that are set, taken away and looked into, places, shapes', () => {
    const change = {
      fields: {
        in: {
          layers: {
            entries: {
              in: { a: { fields: { in: { mask: { fields: { set: { density: 0.5 }, unset: ['density'] } } } } } },
              add: [[null, { id: 'b', fill: { kind: 'gradient', shape: 'angle' } }]],
            },
          },
        },
      },
    }
    expect(inTodaysWords(change)).toEqual(
      JSON.parse(JSON.stringify(change).replaceAll('density', 'strength').replace('angle', 'conic')),
    )
    expect(inTodaysWords([{ op: 'replace', path: ['layers', 0, 'mask', 'density'], value: 1 }])).toEqual([
      { op: 'replace', path: ['layers', 0, 'mask', 'strength'], value: 1 },
    ])
  })
  it('a change without them is the very same', () => {
    const change = { fields: { set: { name: 'density', points: [[1, 2]] } } }
    expect(inTodaysWords(change)).toBe(change)
  })
  it('a live wire stored before it could follow an object follows edges alone, in records and in changes', () => {
    const wire = { kind: 'liveWire', id: 'w', anchors: [[1, 2]] }
    expect(inTodaysWords({ add: [[null, wire]] })).toEqual({ add: [[null, { ...wire, followObject: false }]] })
    const told = { ...wire, followObject: true }
    expect(inTodaysWords(told)).toBe(told)
    expect(parseStep(wire)).toMatchObject({ followObject: true })
    const recipe = { version: 1, steps: [{ kind: 'invert' }, wire, told] }
    expect(wiresAsStored(recipe)).toEqual({
      version: 1,
      steps: [{ kind: 'invert' }, { ...wire, followObject: false }, told],
    })
    for (const plain of [{ version: 1, steps: [told] }, { steps: 'no' }, null, 7])
      expect(wiresAsStored(plain)).toBe(plain)
  })
  it('an undo that an earlier version wrote down is an undo', () => {
    const project = { layers: [{ id: 'a', mask: { strength: 0.5 } }] } as unknown as Project,
      inverse = {
        fields: {
          in: { layers: { entries: { in: { a: { fields: { in: { mask: { fields: { unset: ['density'] } } } } } } } } },
        },
      }
    expect(applyChange(project, inverse)).toEqual({ layers: [{ id: 'a', mask: {} }] })
  })
  it('recipes keep their gradients', () => {
    const of = (shape: string) => parseStep({ kind: 'gradient', shape, from: [0, 0], to: [9, 9] })
    expect(of('reflected')).toEqual(of('mirrored'))
    expect(of('diamond')).toEqual(of('rhombus'))
    expect(() => of('spiral')).toThrow(/one of "linear"/)
  })
})
