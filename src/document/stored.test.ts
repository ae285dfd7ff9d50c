/** A project as an earlier version stored it: every state of its history is read, and work goes on from it. */
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { renameProject } from './edits'
import { type Act, applyChange, goTo, historyOf, perform, undo } from './history'
import { joinHeads } from './merge'
import { type Project } from './records'
import { parseProject } from './validate'

const stored = JSON.parse(readFileSync(join(__dirname, '../../tests/fixtures/stored-project-1.json'), 'utf8')) as {
  initial: Project
  acts: Act[]
  head: string
  records: Project
}

describe('a stored project of an earlier version', () => {
  const opened = { project: parseProject(stored.records), history: historyOf(stored.acts, stored.head) }
  it('every act of it can be gone to, and gives valid records', () => {
    expect(stored.acts.length).toBeGreaterThan(30)
    for (const { id } of stored.acts) {
      const there = goTo(opened.project, opened.history, id).project
      expect(parseProject(JSON.parse(JSON.stringify(there)))).toEqual(JSON.parse(JSON.stringify(there)))
    }
    expect(goTo(opened.project, opened.history, null).project).toEqual(stored.initial)
  })
  it('its records are what its acts make of its start', () => {
    const path: Act[] = []
    for (let id: string | null = stored.head; id; id = path[0].parent) path.unshift(opened.history.acts.get(id)!)
    expect(path.reduce((records, act) => applyChange(records, act.forward), parseProject(stored.initial))).toEqual(
      opened.project,
    )
  })
  it('new acts follow on old ones, are undone through them, and are joined with what another tab does', () => {
    const mine = perform(opened.project, opened.history, 'Rename', renameProject('Mine'), 'mine', '')!
    expect(undo(mine.project, mine.history)!.project).toEqual(opened.project)
    expect(goTo(mine.project, mine.history, stored.acts[3].id).project).toEqual(
      goTo(opened.project, opened.history, stored.acts[3].id).project,
    )
    const theirs = perform(opened.project, opened.history, 'ppi', (p) => void (p.ppi = 72), 'theirs', '')!
    const both = {
      ...mine,
      history: { ...mine.history, acts: new Map([...theirs.history.acts, ...mine.history.acts]) },
    }
    const joined = joinHeads(
      both,
      { agreed: stored.head, mine: 'mine', theirs: 'theirs' },
      { id: 'joined', at: '', label: 'Joined' },
    )
    expect(joined.project).toMatchObject({ name: 'Mine', ppi: 72 })
  })
})
