/**
 * Undo as a tree: every act knows its parent, undoing moves to the parent, doing something new after undoing starts a branch.
 * Nothing is ever lost; any act can be gone back to.
 */
import { applyPatches, enablePatches, type Patch, produceWithPatches } from 'immer'
import { type Project } from './types'

enablePatches()

export interface Act {
  readonly id: string
  /** Null for the first act on the records the project started with. */
  readonly parent: string | null
  readonly label: string
  readonly forward: readonly Patch[]
  readonly inverse: readonly Patch[]
  /** ISO 8601. */
  readonly at: string
}

export interface History {
  readonly acts: ReadonlyMap<string, Act>
  /** The act whose result is shown; null before any. */
  readonly head: string | null
  /** The child that redo follows, by parent ('' stands for the start). */
  readonly onward: ReadonlyMap<string, string>
}

type Draft<T> = { -readonly [K in keyof T]: Draft<T[K]> }
export type Edit = (project: Draft<Project>) => void

export const EMPTY_HISTORY: History = { acts: new Map(), head: null, onward: new Map() }

/** Acts in the order they were made; the newest child of each act is the one redo follows, but towards `head` the path to it. */
export function historyOf(acts: readonly Act[], head: string | null): History {
  const byId = new Map(acts.map((act) => [act.id, act]))
  const onward = new Map(acts.map((act) => [act.parent ?? '', act.id]))
  for (let id = head; id;) {
    const act: Act | undefined = byId.get(id)
    if (!act) break
    onward.set(act.parent ?? '', id)
    id = act.parent
  }
  return { acts: byId, head, onward }
}

/** Null when the edit changes nothing. */
export function perform(
  project: Project,
  history: History,
  label: string,
  edit: Edit,
  id: string,
  at: string,
): { project: Project; history: History; act: Act } | null {
  const [next, forward, inverse] = produceWithPatches(project, edit as (draft: object) => void)
  if (!forward.length) return null
  const act: Act = { id, parent: history.head, label, forward, inverse, at }
  return {
    project: next as Project,
    act,
    history: {
      acts: new Map(history.acts).set(id, act),
      head: id,
      onward: new Map(history.onward).set(act.parent ?? '', id),
    },
  }
}

export function undo(project: Project, history: History): { project: Project; history: History; label: string } | null {
  const act = history.head ? history.acts.get(history.head) : undefined
  if (!act) return null
  return {
    project: applyPatches(project, act.inverse as Patch[]),
    label: act.label,
    history: { ...history, head: act.parent, onward: new Map(history.onward).set(act.parent ?? '', act.id) },
  }
}

export function redo(project: Project, history: History): { project: Project; history: History; label: string } | null {
  const act = history.acts.get(history.onward.get(history.head ?? '') ?? '')
  if (!act) return null
  return {
    project: applyPatches(project, act.forward as Patch[]),
    label: act.label,
    history: { ...history, head: act.id },
  }
}

/** Goes to any act (or null, the start), through the common ancestor. Throws RangeError for an act that is not there. */
export function goTo(
  project: Project,
  history: History,
  target: string | null,
): { project: Project; history: History } {
  if (target !== null && !history.acts.has(target)) throw new RangeError('This act is not in the history.')
  const path: Act[] = []
  const above = new Set<string | null>([null])
  for (let id = history.head; id; id = history.acts.get(id)!.parent) above.add(id)
  let meeting = target
  while (!above.has(meeting)) {
    const act: Act = history.acts.get(meeting!)!
    path.unshift(act)
    meeting = act.parent
  }
  let state = { project, history }
  while (state.history.head !== meeting) state = undo(state.project, state.history)!
  const onward = new Map(state.history.onward)
  for (const act of path) {
    state.project = applyPatches(state.project, act.forward as Patch[])
    onward.set(act.parent ?? '', act.id)
  }
  return { project: state.project, history: { ...history, head: target, onward } }
}

/** The newest steps the selection had before it came to have none, on the way to the records shown; null when it never had any. */
export function lastSelection(project: Project, history: History): Project['selection'] | null {
  for (
    let state: { project: Project; history: History } | null = { project, history };
    state;
    state = undo(state.project, state.history)
  )
    if (state.project.selection.steps.length) return state.project.selection
  return null
}
