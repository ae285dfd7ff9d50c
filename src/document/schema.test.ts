import fc from '../../tests/properties'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { projectSchema } from './records'
import { by, id, listOf, numberOf, once, optional, or, read, recordOf, without } from './schema'
import { isRecordError, parseProject, ProjectError } from './validate'

describe('a schema of records', () => {
  const thing = recordOf('a thing', {
      id,
      size: numberOf(0, 9, 'px'),
      note: optional(id),
      more: or(numberOf(0, 1), 1),
    }),
    things = recordOf('things', { list: listOf('things', thing, 3) })
  const refused = (value: unknown): string => {
    try {
      read(things, value, 'it')
    } catch (error) {
      expect(error).toBeInstanceOf(ProjectError)
      return (error as Error).message
    }
    return ''
  }
  it('completes what is left out, and leaves out what it does not know', () => {
    expect(read(thing, { id: 'a', size: 1, other: 2 }, 'it')).toEqual({ id: 'a', size: 1, more: 1 })
  })
  it.each([
    [{ list: [{ id: 'a', size: 10 }] }, 'it.list[0].size: takes a number of px from 0 to 9.'],
    [{ list: [{ id: 'a', size: NaN }] }, 'it.list[0].size: takes a number of px from 0 to 9.'],
    [{ list: [{ size: 1 }] }, 'it.list[0].id: is missing.'],
    [{ list: [7] }, 'it.list[0]: takes a thing.'],
    [{ list: 7 }, 'it.list: takes a list of up to 3 things.'],
    [
      { list: Array.from({ length: 4 }, (_, i) => ({ id: `${i}`, size: 1 })) },
      'it.list: takes a list of up to 3 things.',
    ],
    [{ list: [{ id: 'a', size: 1 }, { id: 'a', size: 2 }] }, 'it.list: takes things with ids of their own.'], // prettier-ignore
    [null, 'it: takes things.'],
  ])('refuses %j in a sentence that names the place', (value, sentence) => expect(refused(value)).toBe(sentence))
  it('what other readers say of a part is said with its place', () => {
    const inner = by((value, path) => {
      if (value === 3) throw new TypeError('a fault of ours')
      if (value !== 1) throw new ProjectError(`${path}.deep: takes 1.`)
      return 1
    })
    expect(() => read(recordOf('a thing', { inner }), { inner: 2 }, 'it')).toThrow('it.inner.deep: takes 1.')
    expect(() => read(inner, 3, 'it')).toThrow(TypeError)
    expect(() =>
      read(
        without(inner, () => ', all of it: takes nothing.'),
        1,
        'it',
      ),
    ).toThrow('it, all of it')
  })
  it('what cannot change is read once; what can, each time', () => {
    let times = 0
    const counted = once(by((value) => ++times && value))
    const fixed = Object.freeze({ a: 1 })
    expect([read(counted, fixed, 'it'), read(counted, fixed, 'it')]).toEqual([fixed, fixed])
    expect(times).toBe(1)
    read(counted, { a: 1 }, 'it')
    read(counted, { a: 1 }, 'it')
    expect(times).toBe(3)
  })
})

describe('records that something happened to', () => {
  const { records } = JSON.parse(
    readFileSync(join(__dirname, '../../tests/fixtures/stored-project-1.json'), 'utf8'),
  ) as { records: object }
  type Place = readonly [Record<string, unknown>, string]
  const placesIn = (value: unknown): Place[] =>
    typeof value === 'object' && value !== null
      ? Object.keys(value).flatMap((key) => {
          const at = value as Record<string, unknown>
          return [[at, key] as const, ...placesIn(at[key])]
        })
      : []
  it('are read, and then read the same again, or are refused in one sentence', () => {
    let refused = 0
    fc.assert(
      fc.property(fc.nat(), fc.jsonValue({ maxDepth: 1 }), fc.boolean(), (which, value, goes) => {
        const hurt = structuredClone(records),
          places = placesIn(hurt),
          [at, key] = places[which % places.length]
        if (goes) delete at[key]
        else at[key] = value
        try {
          const project = parseProject(JSON.parse(JSON.stringify(hurt)))
          expect(parseProject(JSON.parse(JSON.stringify(project)))).toEqual(project)
        } catch (error) {
          if (!isRecordError(error)) throw error
          expect(error.message).toMatch(/^[^\n]+\.$/)
          refused++
        }
      }),
      { numRuns: 400 },
    )
    expect(refused).toBeGreaterThan(100)
    expect(Object.keys(parseProject(records)).sort()).toEqual(
      expect.arrayContaining(
        Object.keys(projectSchema.entries).filter((name) => name !== 'window' && name !== 'linear'),
      ),
    )
  })
})
