import fc from '../../tests/properties'
import { describe, expect, it } from 'vitest'
import { anyEdit } from '../../tests/madeUp/edits'
import { randomOf } from '../../tests/madeUp/random'
import { projectOf, renameProject } from './edits'
import { EMPTY_HISTORY, goTo, type History, perform } from './history'
import { addLayer, changeLayer, removeLayer } from './layers'
import { fillLayer, paintLayer } from './layerRecords'
import { isValid, joinHeads, withoutAct } from './merge'
import { type Project } from './records'

const size = { width: 300, height: 200 }
const pictures = ['a', 'b'].map((letter) => ({ asset: letter.repeat(64), ...size, name: letter }))
const start = projectOf('Page', pictures[0], 'first')
interface State {
  project: Project
  history: History
}
let ids = 0
const newId = () => `i${++ids}`
const doing = (state: State, edit: Parameters<typeof perform>[3], label = 'edit'): State =>
  perform(state.project, state.history, label, edit, newId(), '2026-01-01T00:00:00Z') ?? state
const random = (state: State, seed: number, count: number): State => {
  for (let i = 0; i < count; i++) state = doing(state, anyEdit(randomOf(seed + i), state.project, pictures, newId).edit)
  return state
}
const fill = (id: string) => fillLayer(id, id, size, { kind: 'colour', colour: '#aa3311' })
const both = (a: State, b: State): State => ({
  project: a.project,
  history: {
    ...a.history,
    acts: new Map([...b.history.acts, ...a.history.acts]),
    onward: new Map([...b.history.onward, ...a.history.onward]),
  },
})
const named = { id: 'joined', at: '2026-01-01T00:00:00Z', label: 'Taken in' }

describe('joining what two tabs did', () => {
  const agreed = doing({ project: start, history: EMPTY_HISTORY }, addLayer(fill('shared'), null))
  it('changes of different records both stand; undo takes theirs away again', () => {
    const mine = doing(doing(agreed, addLayer(fill('mine'), null)), renameProject('Mine')),
      theirs = doing(doing(agreed, addLayer(fill('theirs'), null)), changeLayer('shared', { opacity: 0.4 }))
    const joined = joinHeads(
      both(mine, theirs),
      { agreed: agreed.history.head, mine: mine.history.head, theirs: theirs.history.head },
      named,
    )
    expect(joined.project.name).toBe('Mine')
    expect(joined.project.layers.map((layer) => layer.id).sort()).toEqual(['first', 'mine', 'shared', 'theirs'])
    expect(joined.project.layers.find((layer) => layer.id === 'shared')!.opacity).toBe(0.4)
    expect(goTo(joined.project, joined.history, mine.history.head).project).toEqual(mine.project)
    expect(goTo(joined.project, joined.history, theirs.history.head).project).toEqual(theirs.project)
  })
  it('of the same field mine stands, which comes later', () => {
    const mine = doing(agreed, changeLayer('shared', { opacity: 0.7 })),
      theirs = doing(agreed, changeLayer('shared', { opacity: 0.4, name: 'Theirs' }))
    const joined = joinHeads(
      both(mine, theirs),
      { agreed: agreed.history.head, mine: mine.history.head, theirs: theirs.history.head },
      named,
    )
    expect(joined.project.layers.find((layer) => layer.id === 'shared')).toMatchObject({ opacity: 0.7, name: 'Theirs' })
  })
  it('an undo of mine stands beside what theirs did', () => {
    const added = doing(agreed, addLayer(fill('undone'), null)),
      theirs = doing(added, changeLayer('shared', { opacity: 0.4 }))
    const back = goTo(added.project, added.history, agreed.history.head)
    const joined = joinHeads(
      both(back, theirs),
      { agreed: added.history.head, mine: agreed.history.head, theirs: theirs.history.head },
      named,
    )
    expect(joined.project.layers.map((layer) => layer.id)).toEqual(['first', 'shared'])
    expect(joined.project.layers[1].opacity).toBe(0.4)
  })
  it('whatever both did, the result is valid, holds what neither removed, and both ends are in the history', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e8 }),
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 12 }),
        (seed, m, t) => {
          const base = random(agreed, seed, 8)
          const mine = random(base, seed + 1e8, m),
            theirs = random(base, seed + 2e8, t)
          const joined = joinHeads(
            both(mine, theirs),
            { agreed: base.history.head, mine: mine.history.head, theirs: theirs.history.head },
            { ...named, id: newId() },
          )
          expect(isValid(JSON.parse(JSON.stringify(joined.project)) as Project)).toBe(true)
          expect(goTo(joined.project, joined.history, theirs.history.head).project).toEqual(theirs.project)
          expect(goTo(joined.project, joined.history, mine.history.head).project).toEqual(mine.project)
          const old = new Set(base.project.layers.map((layer) => layer.id)),
            there = new Set(joined.project.layers.map((layer) => layer.id))
          for (const layer of [...mine.project.layers, ...theirs.project.layers])
            if (!old.has(layer.id)) expect(there.has(layer.id)).toBe(true)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('acts without one of them', () => {
  it('the others stand as far as they can, and what needed it is told', () => {
    const agreed = doing({ project: start, history: EMPTY_HISTORY }, addLayer(fill('shared'), null))
    const refused = doing(agreed, addLayer(paintLayer('refused', 'Refused', size), null))
    const rest = doing(
      doing(doing(refused, changeLayer('refused', { opacity: 0.1 })), addLayer(fill('later'), null)),
      removeLayer('shared'),
    )
    const acts = [...rest.history.acts.values()],
      at = acts.findIndex((act) => act.id === refused.history.head)
    const without = withoutAct(rest, acts[at], acts.slice(at + 1), newId)
    expect(without.project.layers.map((layer) => layer.id)).toEqual(['first', 'later'])
    expect(without.acts.map((act) => act.parent)).toEqual([agreed.history.head, without.acts[0].id])
    expect(without.dropped.map((act) => act.id)).toEqual([acts[at + 1].id])
    expect(goTo(without.project, without.history, agreed.history.head).project).toEqual(agreed.project)
  })
  it('random acts without any one of them are valid, and go back to the start', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e8 }), fc.nat(9), (seed, which) => {
        const state = random({ project: start, history: EMPTY_HISTORY }, seed, 10),
          acts = [...state.history.acts.values()],
          at = Math.min(which, acts.length - 1)
        const without = withoutAct(state, acts[at], acts.slice(at + 1), newId)
        expect(isValid(without.project)).toBe(true)
        expect(goTo(without.project, without.history, null).project).toEqual(start)
        expect(without.acts.length + without.dropped.length).toBe(acts.length - 1 - at)
      }),
      { numRuns: 60 },
    )
  })
})
