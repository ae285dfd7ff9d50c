/**
 * The workbench's state: the project's records and their history, what is being changed right now, and what the screen shows.
 * Records change only through `act` (or `preview` … `settle` while something is dragged); every act goes to the outbox.
 */
import { produce } from 'immer'
import { create } from 'zustand'
import { type ToleranceCurve } from '@/core/select/similarColour/toleranceCurve'
import { type Step } from '@/core/select/registry'
import { recipeAt } from '@/document/edits'
import { type Act, type Edit, EMPTY_HISTORY, goTo, type History, historyOf, perform, redo, undo } from '@/document/history'
import { type Project, type RecipeHome, SELECTION } from '@/document/types'
import { type Backing, type ViewMode } from '@/engine/page/protocol'
import { type FinderId } from '@/ui/finders/kinds'
import { Outbox, type OutboxState } from './outbox'
import { openProject, Refused } from './server'

export type Stage = 'gather' | 'select' | 'compose' | 'deliver'

export interface BenchState {
  id: string
  phase: 'loading' | 'ready' | 'failed'
  problem: string
  /** The records after the last act. */
  project: Project | null
  /** The records while something is dragged: shown, not yet an act. */
  live: Project | null
  history: History
  saving: OutboxState
  stage: Stage
  finder: FinderId
  /** The outline still being drawn corner by corner. */
  drawing: string | null
  home: RecipeHome
  /** The step whose card is open and whose handles show. */
  openStep: string | null
  brush: { size: number; hardness: number; strength: number; tip: 'round' | 'square'; erase: boolean }
  view: ViewMode
  backing: Backing
  /** Null: the hue rarest in the picture. */
  tintHue: number | null
  tintOpacity: number
  /** How much what is outside is dimmed, 0-1. */
  dim: number
  /** Panels away. */
  bare: boolean
  /** While a key is held: the picture without anything over it, masks off. */
  before: boolean
  result: { selected: number; soft: number } | null
  curves: Readonly<Record<string, { key: string; curve: ToleranceCurve }>>
  progress: { what: string; fraction: number } | null
  rarestHue: number
  pointer: readonly [number, number] | null
  pixel: readonly [number, number, number, number] | null
  scale: number
}

const initial = (id: string): BenchState => ({
  id, phase: 'loading', problem: '', project: null, live: null, history: EMPTY_HISTORY, saving: { unsent: 0, state: 'saved' },
  stage: 'select', finder: 'similarColour', drawing: null, home: SELECTION, openStep: null, brush: { size: 80, hardness: 1, strength: 1, tip: 'round', erase: false }, view: 'tint', backing: 'checks', tintHue: null, tintOpacity: 0.5, dim: 0.7,
  bare: false, before: false, result: null, curves: {}, progress: null, rarestHue: 265, pointer: null, pixel: null, scale: 1,
})

export const useBench = create<BenchState>(() => initial(''))
export const set = useBench.setState
export const get = useBench.getState

/** The records as shown. */
export const shownProject = (state: BenchState): Project | null => state.live ?? state.project
/** The steps the panel shows. */
const NO_STEPS: readonly Step[] = []
export const shownSteps = (state: BenchState): readonly Step[] => { const project = shownProject(state); return (project && recipeAt(project, state.home)?.steps) ?? NO_STEPS }

let outbox: Outbox | null = null
let pendingEdit: Edit | null = null

export async function openBench(id: string): Promise<void> {
  closeBench()
  set(initial(id), true)
  const box = (outbox = new Outbox(id, (saving) => { if (get().id === id) set({ saving }) }))
  try {
    const [{ acts, head, records }, left] = await Promise.all([openProject(id), box.left()])
    if (outbox !== box) return
    const known = new Set(acts.map((act) => act.id))
    const unsent = left.acts.filter((act) => !known.has(act.id))
    const opened = { project: records, history: historyOf([...acts, ...unsent], head) }
    // What an earlier visit could not send comes on top of what the server has.
    const { project, history } = left.head === undefined ? opened : goTo(opened.project, opened.history, left.head)
    const masked = [...project.layers].reverse().find((layer) => layer.mask)
    const home: RecipeHome = project.selection.steps.length === 0 && masked ? { kind: 'mask', layer: masked.id } : SELECTION
    set({ phase: 'ready', project, history, home, openStep: recipeAt(project, home)?.steps.findLast((step) => step.kind !== 'invert')?.id ?? null })
    void box.flush()
  } catch (error) {
    if (outbox === box) set({ phase: 'failed', problem: error instanceof Refused && error.status === 404 ? 'There is no such project. It may have been deleted.' : error instanceof Error ? error.message : String(error) })
  }
}

export function closeBench(): void { outbox?.close(); outbox = null; pendingEdit = null }

const report = (problem: unknown) => set({ saving: { unsent: 1, state: 'refused', problem: `This browser could not keep the change: ${problem instanceof Error ? problem.message : String(problem)}` } })
const keep = (act: Act | null, head: string | null) => { outbox?.put(act, head).catch(report) }

/** Changes the records as one act. Returns false when nothing changed. */
export function act(label: string, edit: Edit): boolean {
  const { project, history } = get()
  if (!project) return false
  pendingEdit = null
  const done = perform(project, history, label, edit, crypto.randomUUID(), new Date().toISOString())
  if (!done) { set({ live: null }); return false }
  set({ project: done.project, history: done.history, live: null })
  keep(done.act, done.act.id)
  return true
}

/** Shows a change without making it an act: while a slider or handle is dragged. Each call replaces the one before. */
export function preview(edit: Edit): void {
  const { project } = get()
  if (!project) return
  pendingEdit = edit
  set({ live: produce(project, edit as (draft: object) => void) as Project })
}
/** Makes the shown change an act. */
export function settle(label: string): boolean { return pendingEdit ? act(label, pendingEdit) : false }
/** Takes the shown change back. */
export function abandon(): void { pendingEdit = null; set({ live: null }) }

function moveTo(next: { project: Project; history: History } | null): boolean {
  if (!next) return false
  pendingEdit = null
  const { home } = get()
  const homeLost = home.kind === 'mask' && !next.project.layers.some((layer) => layer.id === home.layer && layer.mask)
  set({ project: next.project, history: next.history, live: null, home: homeLost ? SELECTION : home })
  keep(null, next.history.head)
  return true
}
export const undoAct = (): boolean => { const { project, history } = get(); return project ? moveTo(undo(project, history)) : false }
export const redoAct = (): boolean => { const { project, history } = get(); return project ? moveTo(redo(project, history)) : false }
export const goToAct = (target: string | null): boolean => { const { project, history } = get(); return project ? moveTo(goTo(project, history, target)) : false }
export const sendNow = (): void => { void outbox?.flush() }
