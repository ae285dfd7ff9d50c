/**
 * Undo as a tree: every act knows its parent, undoing moves to the parent, doing something new after undoing starts a branch.
 * Nothing is ever lost; any act can be gone back to.
 */
import { applyPatches, enablePatches, freeze, type Patch, produce } from 'immer'
import { applyDiff, type Diff, diffOf } from './diff'
import { inTodaysWords } from './earlierWords'
import { keepable, LIMITS } from './limits'
import { type Project } from './records'
import { isRecordError, parseProject } from './validate'

enablePatches()

/** What an act changed. Acts of earlier versions told it by places in the records. */
export type Change = Diff | readonly Patch[]

export interface Act {
  readonly id: string
  /** Null for the first act on the records the project started with. */
  readonly parent: string | null
  readonly label: string
  readonly forward: Change
  readonly inverse: Change
  /** ISO 8601. */
  readonly at: string
}

/** Records are never changed in place. Throws for patches of an earlier version that do not fit. */
export const applyChange = (project: Project, change: Change): Project =>
  freeze(
    (Array.isArray(change)
      ? applyPatches(project, inTodaysWords(change) as Patch[])
      : applyDiff(project, inTodaysWords(change) as Diff)) as Project,
    true,
  )

export interface History {
  readonly acts: ReadonlyMap<string, Act>
  /** The act whose result is shown; null before any. */
  readonly head: string | null
  /** The child that redo follows, by parent ('' stands for the start). */
  readonly onward: ReadonlyMap<string, string>
}

type Draft<T> = { -readonly [K in keyof T]: Draft<T[K]> }
export type Edit = (project: Draft<Project>) => void

/** The same history, knowing acts from before those it knows. */
export function withOlder(history: History, older: readonly Act[]): History {
  const all = historyOf([...older, ...history.acts.values()], history.head)
  return { ...all, onward: new Map([...all.onward, ...history.onward]) }
}

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

/** Whether what is shown came from an act, or is what it made; null: from the start. */
export function leadsToShown({ acts, head }: History, act: string | null): boolean {
  let at = head
  while (at !== act && at !== null) at = acts.get(at)?.parent ?? null
  return at === act
}

/** The change between two states as an act. Null when nothing changed. */
export function actBetween(
  before: Project,
  after: Project,
  { id, parent, label, at }: Pick<Act, 'id' | 'parent' | 'label' | 'at'>,
): Act | null {
  const forward = diffOf(before, after)
  return (
    forward && {
      id,
      parent,
      label: keepable(label, LIMITS.label) || 'Change',
      forward,
      inverse: diffOf(after, before)!,
      at,
    }
  )
}

/** The history with one act more, which is shown. */
export const withAct = (history: History, act: Act): History => ({
  acts: new Map(history.acts).set(act.id, act),
  head: act.id,
  onward: new Map(history.onward).set(act.parent ?? '', act.id),
})

/** Names that are too long are cut, and lose what cannot be kept. Only what is not shared with `before` is looked at. */
function withNamesCut(before: unknown, after: unknown): unknown {
  if (before === after || typeof after !== 'object' || after === null) return after
  if (Array.isArray(after)) {
    const shared = new Set<unknown>(Array.isArray(before) ? before : []),
      list = (after as readonly unknown[]).map((entry) => (shared.has(entry) ? entry : withNamesCut(undefined, entry)))
    return list.some((entry, i) => entry !== (after as readonly unknown[])[i]) ? list : (after as unknown)
  }
  const was = (before ?? {}) as Record<string, unknown>,
    now = after as Record<string, unknown>
  const entries = Object.entries(now).map(([key, value]): [string, unknown] => [
    key,
    key === 'name' && typeof value === 'string' ? keepable(value) : withNamesCut(was[key], value),
  ])
  return entries.some(([key, value]) => value !== now[key]) ? Object.fromEntries(entries) : after
}

/** The records after an edit. Throws RefusedEdit, in a sentence, where they would not be records any more: so nothing counts that the server would refuse. */
export function edited(project: Project, edit: Edit): Project {
  const next = freeze(withNamesCut(project, produce(project, edit as (draft: object) => void)), true) as Project
  if (next !== project) {
    try {
      parseProject(next)
    } catch (error) {
      throw isRecordError(error) ? new RefusedEdit(`This cannot be done here. ${error.message}`) : error
    }
  }
  return next
}
export class RefusedEdit extends Error {}

/** Null when the edit changes nothing. Throws RefusedEdit. */
export function perform(
  project: Project,
  history: History,
  label: string,
  edit: Edit,
  id: string,
  at: string,
): { project: Project; history: History; act: Act } | null {
  const next = edited(project, edit)
  const act = actBetween(project, next, { id, parent: history.head, label, at })
  return act && { project: next, act, history: withAct(history, act) }
}

export function undo(project: Project, history: History): { project: Project; history: History; label: string } | null {
  const act = history.head ? history.acts.get(history.head) : undefined
  if (!act) return null
  return {
    project: applyChange(project, act.inverse),
    label: act.label,
    history: { ...history, head: act.parent, onward: new Map(history.onward).set(act.parent ?? '', act.id) },
  }
}

export function redo(project: Project, history: History): { project: Project; history: History; label: string } | null {
  const act = history.acts.get(history.onward.get(history.head ?? '') ?? '')
  if (!act) return null
  return {
    project: applyChange(project, act.forward),
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
  for (let id = history.head; id; id = history.acts.get(id)?.parent ?? null) above.add(id)
  let meeting = target
  while (!above.has(meeting)) {
    const act = history.acts.get(meeting!)
    if (!act) throw new RangeError('This act lies beyond what is known of the history.')
    path.unshift(act)
    meeting = act.parent
  }
  const onward = new Map(history.onward)
  let state = project
  for (let id = history.head; id !== meeting;) {
    const act = id === null ? undefined : history.acts.get(id)
    if (!act) throw new RangeError('This act lies beyond what is known of the history.')
    state = applyChange(state, act.inverse)
    onward.set(act.parent ?? '', act.id)
    id = act.parent
  }
  for (const act of path) {
    state = applyChange(state, act.forward)
    onward.set(act.parent ?? '', act.id)
  }
  return { project: state, history: { ...history, head: target, onward } }
}

/** An act as it is told now; one of an earlier version, told by places, is told by ids. Throws where it does not fit. */
export function retold(project: Project, history: History, act: Act): Act {
  if (!Array.isArray(act.forward) && !Array.isArray(act.inverse)) return act
  const before = goTo(project, history, act.parent).project,
    after = goTo(project, history, act.id).project
  return { ...act, forward: diffOf(before, after) ?? NO_CHANGE, inverse: diffOf(after, before) ?? NO_CHANGE }
}
const NO_CHANGE: Diff = { fields: {} }

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
