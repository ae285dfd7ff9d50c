import fc from '../../tests/properties'
import { describe, expect, it } from 'vitest'
import { parseStep } from '@/core/formats/recipe'
import { addStep, changeStep, renameProject } from './edits'
import { changeLayer } from './layers'
import { fillLayer } from './layerRecords'
import { type Edit, EMPTY_HISTORY, goTo, historyOf, perform, undo, RefusedEdit } from './history'
import { type Project, SELECTION } from './records'
import { parseProject } from './validate'
import { LONGEST_LENGTH } from '@/core/fields/fields'
import { LIMITS } from './limits'
import { start, pick, box, id, run, canvas, red } from '../../tests/setups/document'

describe('what may be kept', () => {
  const label = 'l'.repeat(195)
  const perf = (project: Project, edit: Edit) =>
    perform(project, EMPTY_HISTORY, `Rename to ${label}`, edit, id(), '2026-01-01T00:00:00Z')
  it('names and labels of any length, with NUL and half pairs, are cut to what the server takes', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 12 }),
          fc.constantFrom('n'.repeat(10_000), '\0', '\ud83d', `${'a'.repeat(199)}\u{1f9a6}`),
        ),
        (name) => {
          for (const edit of [renameProject(name), changeLayer('otter', { name })]) {
            const done = perf(start, edit)
            if (!done) continue
            expect(done.act.label.length).toBeLessThanOrEqual(LIMITS.label)
            expect(() => parseProject(JSON.parse(JSON.stringify(done.project)))).not.toThrow()
            // jsonb takes every text but NUL and half pairs. Source: PostgreSQL 15, section 8.14.
            expect(/[\0\p{Surrogate}]/u.test(JSON.parse(JSON.stringify(done.project.name)) as string)).toBe(false)
          }
        },
      ),
    )
  })
  it('the 501st layer and the 1001st step are refused in a sentence, and nothing of them counts', () => {
    const many =
      (count: number): Edit =>
      (project) => {
        for (let i = 0; i < count; i++) project.layers.push({ ...fillLayer(`f${i}`, 'Fill', canvas, red) } as never)
      }
    expect(perf(start, many(LIMITS.layers - 1))!.project.layers).toHaveLength(LIMITS.layers)
    expect(() => perf(start, many(LIMITS.layers))).toThrow(/up to 500 layers/)
    const steps =
      (count: number): Edit =>
      (project) => {
        for (let i = 0; i < count; i++) project.selection.steps.push(box(`s${i}`) as never)
      }
    expect(perf(start, steps(1000))).not.toBeNull()
    expect(() => perf(start, steps(1001))).toThrow(RefusedEdit)
  })
  it('45 strokes on top of 400 take the room of 45, in whatever way the list was made', () => {
    const strokes = (count: number) =>
      Array.from({ length: count }, (_, i) => ({
        points: Array.from({ length: 40 }, (_, k) => [i + k, k * 3.25]),
        size: 12,
      }))
    const painted = run(start, addStep(SELECTION, parseStep({ kind: 'paint', id: 'p', strokes: strokes(400) })))
    const added = JSON.stringify(strokes(445).slice(400)).length
    const { act } = perf(painted, changeStep(SELECTION, 'p', { strokes: strokes(445) }))!
    expect(JSON.stringify(act).length).toBeLessThan(added + 1000)
  })
  it('scenes that look at themselves are refused', () => {
    const looping = run(start, addStep(SELECTION, pick('a'))),
      [scene] = looping.scenes!
    const masked = {
      ...looping.layers[0],
      mask: {
        recipe: { version: 1, steps: [] },
        frame: canvas,
        scene: scene.id,
        sceneLayer: '',
        saved: [],
        enabled: true,
        toLayer: [1, 0, 0, 1, 0, 0],
      },
    }
    expect(() => parseProject({ ...looping, scenes: [{ ...scene, layers: [masked] }] })).toThrow(/looks at itself/)
  })
  it('lengths beyond what any canvas can use are read as the longest that makes a difference', () => {
    expect(parseStep({ kind: 'feather', radius: 1e7 })).toMatchObject({ radius: LONGEST_LENGTH })
    expect(parseStep({ kind: 'rectangle', x: 0, y: 0, width: 5, height: 5, grow: -1e7 })).toMatchObject({
      grow: -LONGEST_LENGTH,
    })
    expect(parseStep({ kind: 'feather', radius: 12 })).toMatchObject({ radius: 12 })
  })
  it('acts of earlier versions, told by places, are undone and redone as before', () => {
    const old = historyOf(
      [
        {
          id: 'old',
          parent: null,
          label: 'Rename',
          forward: [{ op: 'replace', path: ['name'], value: 'Before' }],
          inverse: [{ op: 'replace', path: ['name'], value: 'Poster' }],
          at: '',
        },
      ],
      'old',
    )
    const now = { ...start, name: 'Before' }
    expect(undo(now, old)!.project.name).toBe('Poster')
    expect(goTo(start, { ...old, head: null }, 'old').project.name).toBe('Before')
  })
})
