import { beforeEach, describe, expect, it } from 'vitest'
import { parseStep } from '@/core/formats/recipe'
import { addStep, changeStep, projectOf } from '@/document/edits'
import { type Act, applyChange } from '@/document/history'
import { addPicture, changeLayer, removeLayer } from '@/document/layers'
import { type Project, SELECTION } from '@/document/records'
import { parseProject } from '@/document/validate'
import {
  abandon,
  act,
  chooseLayer,
  get,
  goToAct,
  preview,
  redoAct,
  set,
  settle,
  shownProject,
  undoAct,
  whenChanged,
} from './bench'
import { initial } from './benchState'

const picture = (name: string) => ({ asset: name.repeat(64), width: 60, height: 40, name })
const ellipse = (id: string, values: object = {}) =>
  parseStep({ kind: 'ellipse', id, x: 5, y: 5, width: 20, height: 20, ...values })

/** What a server has that is told of every change, and of nothing else. */
let stored: Project, told: (Act | null)[]
beforeEach(() => {
  stored = projectOf('Store', picture('a'), 'first')
  told = []
  set({ ...initial('store'), project: stored, phase: 'ready' }, true)
  whenChanged((change) => {
    told.push(change)
    if (change) stored = applyChange(stored, change.forward)
  })
})
const shown = () => shownProject(get())!

describe('changes', () => {
  it('a gesture of many values is one change; one that is let go of is none', () => {
    act('Ellipse', addStep(SELECTION, ellipse('s')))
    for (let i = 0; i < 20; i++) preview(changeStep(SELECTION, 's', { width: 20 + i }))
    expect(shown().selection.steps[0]).toMatchObject({ width: 39 })
    expect(get().project!.selection.steps[0]).toMatchObject({ width: 20 })
    expect(settle('Wider')).toBe(true)
    preview(changeStep(SELECTION, 's', { width: 7 }))
    abandon()
    expect(shown().selection.steps[0]).toMatchObject({ width: 39 })
    expect(told.map((change) => change?.label)).toEqual(['Ellipse', 'Wider'])
    expect(stored).toEqual(parseProject(get().project))
  })

  it('undo, redo and going to any change lead to the records that were there', () => {
    const states = [get().project!]
    for (let i = 0; i < 5; i++) {
      act(`Ellipse ${i}`, addStep(SELECTION, ellipse(`s${i}`)))
      states.push(get().project!)
    }
    const heads = [...get().history.acts.keys()]
    for (let i = 4; i >= 0; i--) {
      expect(undoAct()).toBe(true)
      expect(get().project).toEqual(states[i])
    }
    expect(undoAct()).toBe(false)
    expect(redoAct()).toBe(true)
    expect(get().project).toEqual(states[1])
    act('A branch', addStep(SELECTION, ellipse('branch')))
    goToAct(heads[3])
    expect(get().project).toEqual(states[4])
    goToAct(null)
    expect(get().project).toEqual(states[0])
  })

  it('what does nothing is no change, and what the server would refuse does not count', () => {
    expect(act('Nothing', () => {})).toBe(false)
    expect(act('Too wide', changeStep(SELECTION, 'not there', { width: 3 }))).toBe(false)
    act('Ellipse', addStep(SELECTION, ellipse('s')))
    expect(act('No width', changeStep(SELECTION, 's', { width: 'wide' }))).toBe(false)
    expect(get().project!.selection.steps[0]).toMatchObject({ width: 20 })
    expect(told).toHaveLength(1)
  })
})

describe('choosing a layer', () => {
  beforeEach(() => act('Second', addPicture(picture('b'), 'second', null)))

  it('is no change; edits are made on the layer that was chosen', () => {
    expect(shown().activeLayer).toBe('second')
    told = []
    chooseLayer('first')
    expect(shown().activeLayer).toBe('first')
    expect(told).toEqual([])
    act('Ellipse', addStep(SELECTION, ellipse('s', { kind: 'rectangle' })))
    act('Similar', addStep(SELECTION, parseStep({ kind: 'similarColour', id: 'pick', at: [1, 1], sample: 'layer' })))
    expect(shown().selection.steps.at(-1)).toMatchObject({ sceneLayer: 'first' })
    expect(shown().activeLayer).toBe('first')
    expect(stored.selection).toEqual(get().project!.selection)
    expect(stored.activeLayer).toBe(get().project!.activeLayer)
  })

  it('stays when something is undone, and goes when the layer does or another comes', () => {
    chooseLayer('first')
    act('Paler', changeLayer('first', { opacity: 0.5 }))
    undoAct()
    expect(shown().activeLayer).toBe('first')
    act('Third', addPicture(picture('c'), 'third', null))
    expect(shown().activeLayer).toBe('third')
    undoAct()
    expect(shown().layers.some((layer) => layer.id === shown().activeLayer)).toBe(true)
    chooseLayer('first')
    act('Remove', removeLayer('first'))
    expect(shown().activeLayer).toBe('second')
    expect(stored.activeLayer).toBe(get().project!.activeLayer)
  })

  it('is a change where steps of earlier versions look at whichever layer is worked on', () => {
    const old = { ...get().project!.selection }
    set({
      project: {
        ...get().project!,
        selection: {
          ...old,
          steps: [parseStep({ kind: 'similarColour', id: 'old', at: [2, 2], sample: 'layer' })],
        },
      },
    })
    told = []
    chooseLayer('first')
    expect(told.map((change) => change?.label)).toEqual(['Choose a'])
    expect(get().project!.activeLayer).toBe('first')
  })
})
