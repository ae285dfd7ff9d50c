import { describe, expect, it } from 'vitest'
import { type Project, SELECTION } from '@/document/records'
import { focusOf, heldIn, inStage, onLayer } from './focus'

const project = {
  layers: [
    { id: 'quay', name: 'Quay', mask: null },
    { id: 'otter', name: 'Otter', mask: { recipe: { version: 1, steps: [{ id: 'solved', kind: 'edge' }] } } },
  ],
  activeLayer: 'otter',
  selection: { version: 1, steps: [{ id: 'box', kind: 'rectangle' }] },
} as unknown as Project
const MASK = { kind: 'mask', layer: 'otter' } as const

describe('what is worked on', () => {
  it('an open step counts before all else where steps are drawn; elsewhere it waits', () => {
    const state = { stage: 'select', home: SELECTION, openStep: 'box', focus: 'layer' } as const
    expect(focusOf(state, project)).toMatchObject({ kind: 'step', step: { id: 'box' }, of: undefined })
    expect(focusOf({ ...state, stage: 'compose' }, project)).toMatchObject({ kind: 'layer', layer: { id: 'otter' } })
    expect(focusOf({ ...state, home: MASK, openStep: 'solved' }, project)).toMatchObject({
      kind: 'step',
      of: { id: 'otter' },
    })
  })
  it('without one it is the steps as a whole, or the layer; and the selection where neither is there any more', () => {
    const state = { stage: 'select', home: MASK, openStep: null, focus: 'steps' } as const
    expect(focusOf(state, project)).toMatchObject({ kind: 'mask', layer: { id: 'otter' } })
    expect(focusOf({ ...state, home: SELECTION }, project)).toEqual({ kind: 'selection' })
    expect(focusOf({ ...state, focus: 'layer' }, project)).toMatchObject({ kind: 'layer', layer: { id: 'otter' } })
    expect(focusOf({ ...state, home: { kind: 'mask', layer: 'quay' } }, project)).toEqual({ kind: 'selection' })
    expect(focusOf({ ...state, openStep: 'gone' }, project)).toMatchObject({ kind: 'mask' })
    expect(
      focusOf({ ...state, home: SELECTION, focus: 'layer' }, { ...project, layers: [], activeLayer: null }),
    ).toEqual({
      kind: 'selection',
    })
  })
  it('a layer that is chosen leaves the mask that was edited', () => {
    expect(onLayer(MASK)).toMatchObject({ home: SELECTION, openStep: null, focus: 'layer' })
    expect('home' in onLayer(SELECTION)).toBe(false)
  })
  it('where layers are moved the layer is held, and back among steps those that were open', () => {
    expect(inStage('compose', { home: MASK, openStep: 'solved' })).toEqual({ stage: 'compose', focus: 'layer' })
    expect(inStage('select', { home: MASK, openStep: null })).toEqual({ stage: 'select', focus: 'steps' })
    expect(inStage('select', { home: SELECTION, openStep: null })).toEqual({ stage: 'select' })
    expect(heldIn({ home: MASK, focus: 'steps' })).toBe('mask')
    expect(heldIn({ home: MASK, focus: 'layer' })).toBe('layer')
  })
})
