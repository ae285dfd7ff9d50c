import fc from '../../tests/properties'
import { describe, expect, it } from 'vitest'
import { apply } from '@/core/raster/affine'
import { addStep, homeToCanvas, makeMask, picksBackground, recipeAt, renameProject, switchBackground } from './edits'
import { addPicture, placeLayer } from './layers'
import { picturesOfProject, sceneOfArea } from './tree'
import { type Act, EMPTY_HISTORY, goTo, type History, historyOf, leadsToShown, perform, redo, undo } from './history'
import { type Project, SELECTION } from './records'
import { parseProject, ProjectError } from './validate'
import { asset, other, start, pick, id, run, edits, composing } from '../../tests/setups/document'

describe('history', () => {
  it('random acts, all undone, give the start; all redone, the end; and every state on the way is valid', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(edits, composing), { maxLength: 25 }), (list) => {
        let state: { project: Project; history: History } = { project: start, history: EMPTY_HISTORY }
        for (const edit of list) {
          state = perform(state.project, state.history, 'edit', edit, id(), '2026-01-01T00:00:00Z') ?? state
          expect(() => parseProject(JSON.parse(JSON.stringify(state.project)))).not.toThrow()
        }
        const end = state.project
        for (let back = undo(state.project, state.history); back; back = undo(state.project, state.history))
          state = back
        expect(state.project).toEqual(start)
        for (let on = redo(state.project, state.history); on; on = redo(state.project, state.history)) state = on
        expect(state.project).toEqual(end)
      }),
      { numRuns: 150 },
    )
  })
  it('doing something else after undoing keeps the other branch, and any act can be gone back to', () => {
    const one = perform(start, EMPTY_HISTORY, 'one', renameProject('one'), 'a1', '')!
    const two = perform(one.project, one.history, 'two', renameProject('two'), 'a2', '')!
    const back = undo(two.project, two.history)!
    const three = perform(back.project, back.history, 'three', renameProject('three'), 'a3', '')!
    const again = goTo(three.project, three.history, 'a2')
    expect(again.project.name).toBe('two')
    expect(goTo(again.project, again.history, 'a3').project.name).toBe('three')
    expect(goTo(again.project, again.history, null).project).toEqual(start)
    expect([null, 'a2', 'a3'].map((act) => leadsToShown(again.history, act))).toEqual([true, true, false])
    const reopened = historyOf([...again.history.acts.values()] as Act[], 'a1')
    expect(redo(one.project, reopened)!.project.name).toBe('three')
    expect(() => goTo(start, EMPTY_HISTORY, 'nowhere')).toThrow(RangeError)
  })
  it('an edit that changes nothing is no act', () => {
    expect(perform(start, EMPTY_HISTORY, 'same', renameProject('Poster'), 'x', '')).toBeNull()
  })
})

describe('edits', () => {
  it('while the background is picked, further steps come before the closing invert', () => {
    const project = run(
      start,
      addStep(SELECTION, pick('s1')),
      switchBackground(SELECTION, true, 'turn'),
      addStep(SELECTION, pick('s2')),
    )
    expect(project.selection.steps.map((s) => s.id)).toEqual(['s1', 's2', 'turn'])
    expect(picksBackground(project.selection)).toBe(true)
    expect(run(project, switchBackground(SELECTION, false, 'x')).selection.steps.map((s) => s.id)).toEqual(['s1', 's2'])
  })
  it('a mask keeps its steps and what they look at, and its steps follow the layer wherever it goes', () => {
    const masked = run(
      start,
      addStep(SELECTION, pick('s1')),
      makeMask('otter'),
      placeLayer('otter', [2, 0, 0, 2, 50, 60]),
      addPicture({ asset: other, width: 300, height: 300, name: 'Quay' }, 'quay', 'otter'),
    )
    expect(masked.selection.steps).toEqual([])
    const home = { kind: 'mask' as const, layer: 'otter' }
    expect(recipeAt(masked, home)!.steps.map((s) => s.id)).toEqual(['s1'])
    expect(masked.layers.map((l) => l.id)).toEqual(['quay', 'otter'])
    expect(sceneOfArea(masked.layers[1].mask!, masked.scenes!).layers.map((l) => l.id)).toEqual(['otter'])
    expect(picturesOfProject(masked).map((p) => p.asset)).toEqual([other, asset])
    expect(apply(homeToCanvas(masked, home), 3, 4)).toEqual([56, 68])
    expect(parseProject(JSON.parse(JSON.stringify(masked)))).toEqual(masked)
  })
  it('an added picture covers the canvas, in its middle', () => {
    const { placement } = run(
      start,
      addPicture({ asset: other, width: 300, height: 300, name: 'Quay' }, 'quay', 'otter'),
    ).layers[0]
    expect(placement[0]).toBe(2)
    expect(apply(placement, 150, 150)).toEqual([300, 200])
  })
})

describe('records from outside', () => {
  const json = () => JSON.parse(JSON.stringify(start))
  it.each([
    [
      'a missing asset',
      (p: ReturnType<typeof json>) => {
        p.layers[0].asset = 'zz'
      },
      'layers[0].asset: takes a SHA-256',
    ],
    [
      'an opacity of two',
      (p) => {
        p.layers[0].opacity = 2
      },
      'layers[0].opacity: takes a number from 0 to 1',
    ],
    [
      'a canvas of a thousand megapixels',
      (p) => {
        p.canvas = { width: 39000, height: 39000 }
      },
      'canvas: takes at most 150 megapixels',
    ],
    [
      'NaN in a placement',
      (p) => {
        p.layers[0].placement[0] = null
      },
      'layers[0].placement: takes six finite numbers',
    ],
    [
      'two layers of one id',
      (p) => {
        p.layers.push(p.layers[0])
      },
      'layers: takes layers with ids of their own',
    ],
    [
      'an active layer that is not there',
      (p) => {
        p.activeLayer = 'gone'
      },
      'activeLayer: takes the id of a layer',
    ],
    [
      'another version',
      (p) => {
        p.version = 9
      },
      'project.version: takes 1',
    ],
  ] as [string, (p: ReturnType<typeof json>) => void, string][])(
    '%s is refused with its path',
    (_, spoil, sentence) => {
      const project = json()
      spoil(project)
      expect(() => parseProject(project)).toThrow(ProjectError)
      expect(() => parseProject(project)).toThrow(sentence)
    },
  )
  it('masks nested without end are refused', () => {
    const project = json()
    let layer = project.layers[0]
    for (let i = 0; i < 12; i++) {
      layer.mask = {
        recipe: { version: 1, steps: [] },
        enabled: true,
        frame: { width: 1, height: 1 },
        toLayer: [1, 0, 0, 1, 0, 0],
        scene: [JSON.parse(JSON.stringify({ ...start.layers[0] }))],
        sceneLayer: 'otter',
      }
      layer = layer.mask.scene[0]
    }
    expect(() => parseProject(project)).toThrow('nested deeper than 8')
  })
})
