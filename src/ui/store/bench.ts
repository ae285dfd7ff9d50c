/**
 * The workbench's state: the project's records and their history, what is being changed right now, and what the screen shows.
 * Records change only through `act` (or `preview` … `settle` while something is dragged); every act goes to the outbox.
 */
import { produce } from 'immer'
import { toast } from 'sonner'
import { create } from 'zustand'
import { isFinding, looksAtPixels, type Step } from '@/core/steps/registry'
import { layerById, recipeAt, restoreSteps } from '@/document/edits'
import { diffOf } from '@/document/diff'
import { activateLayer } from '@/document/layers'
import {
  type Act,
  type Edit,
  edited,
  goTo,
  type History,
  leadsToShown,
  perform,
  redo,
  RefusedEdit,
  undo,
} from '@/document/history'
import { type Project, type RecipeHome, SELECTION } from '@/document/records'
import { burst, endBurst } from '@/ui/primitives/burst'
import { type FinderId } from '@/ui/finders/kinds'
import { initial, type BenchState } from './benchState'
import { type Stage } from './rooms/view'
import { drawsSteps, inStage, onLayer } from './focus'
import { sameHome } from './frame'

export const useBench = create<BenchState>(() => initial(''))
export const set = useBench.setState
export const get = useBench.getState

/** The records as shown, with the layer worked on. */
export const shownProject = (state: BenchState): Project | null => {
  const project = state.live ?? state.project
  return project && workedOn(project, state.active)
}
const withActive = new WeakMap<Project, Project>()
function workedOn(project: Project, active: string | null): Project {
  if (active === null || active === project.activeLayer || !project.layers.some((layer) => layer.id === active))
    return project
  let made = withActive.get(project)
  if (made?.activeLayer !== active) withActive.set(project, (made = { ...project, activeLayer: active }))
  return made
}
/** Works on another layer. It is a change only where the selection has steps that look at whichever layer that is: steps of earlier versions do not say which. */
export function chooseLayer(id: string): void {
  const { project } = get()
  if (!project) return
  const follows = project.selection.steps.some(
    (step) => step.scene === undefined && isFinding(step) && step.sample === 'layer' && looksAtPixels(step),
  )
  if (follows) act(`Choose ${layerById(project, id)?.name ?? 'a layer'}`, activateLayer(id))
  else set({ active: id })
  set(({ home }) => onLayer(home))
}
/** Shows another stage. Where edges are worked on, the edge step is what is worked on. */
export function goToStage(stage: Stage): void {
  set((state) => inStage(stage, state))
  const steps = shownSteps(get()),
    edge = steps.findLast((step) => step.kind === 'edge' && !step.hidden)
  if (stage === 'edge' && edge && steps.find((step) => step.id === get().openStep)?.kind !== 'edge')
    set({ openStep: edge.id!, focus: 'steps' })
}
/** Takes another tool. */
export const chooseTool = (finder: FinderId): void =>
  set((state) => ({ ...inStage('select', state), finder, drawing: null }))
/** Works on a mask, or on the selection, as a whole. */
export const workOnSteps = (home: RecipeHome): void => workOn(home, { openStep: null })
function workOn(home: RecipeHome, open: Partial<BenchState>): void {
  const active = shownProject(get())?.activeLayer
  if (home.kind === 'mask' && home.layer !== active) chooseLayer(home.layer)
  if (home.kind === 'selection' && !drawsSteps(get().stage)) goToStage('select')
  set((state) => ({ ...open, home, focus: 'steps', ...(sameHome(home, state.home) ? {} : { result: null }) }))
}
/** Works on one step. @param finder the tool that made it: it is the one that goes on */
export function workOnStep(home: RecipeHome, step: string, finder?: FinderId): void {
  if (!drawsSteps(get().stage)) goToStage('select')
  workOn(home, { openStep: step, drawing: null, ...(finder ? { finder } : {}) })
}
/** The open step is closed; whose step it was is what is worked on. */
export const closeStep = (): void => set({ openStep: null, focus: 'steps' })
/** The steps the panel shows. */
const NO_STEPS: readonly Step[] = []
export const shownSteps = (state: BenchState): readonly Step[] => {
  const project = shownProject(state)
  return (project && recipeAt(project, state.home)?.steps) ?? NO_STEPS
}

let pendingEdit: Edit | null = null
/** Told of every change of the records and of what is shown. */
let changed: (act: Act | null, head: string | null) => void = () => {}
export const whenChanged = (listener: typeof changed): void => {
  changed = listener
}
/** What is being dragged is let go of; or, where the records changed below it, shown on them. */
export function startAgain(goOn = false): void {
  if (goOn && pendingEdit) preview(pendingEdit)
  else {
    pendingEdit = null
    if (get().live) set({ live: null })
  }
}

/** The steps shown, as long as the mask they belong to is there; the selection's otherwise. */
export const stepsIn = (project: Project): Pick<BenchState, 'home' | 'openStep' | 'drawing'> => {
  const { home, openStep, drawing } = get(),
    steps = recipeAt(project, home)?.steps
  return {
    ...(steps ? { home, openStep } : { home: SELECTION, openStep: null }),
    // An outline that is being drawn is no more once its last point was taken back.
    drawing: drawing !== null && steps?.some((step) => step.id === drawing) ? drawing : null,
  }
}
/** The same, where the change came from here: if it went to another layer, that layer is worked on. */
const goesOnIn = (project: Project): Partial<BenchState> => {
  const before = get().project
  return before && before.activeLayer !== project.activeLayer
    ? { ...stepsIn(project), ...onLayer(stepsIn(project).home) }
    : stepsIn(project)
}

/** Changes the records as one act. Returns false when nothing changed, or when it cannot be done, which is said. */
export function act(label: string, edit: Edit): boolean {
  endBurst()
  const { project, history, active } = get()
  if (!project) return false
  pendingEdit = null
  const base = workedOn(project, active)
  const done = attempt(() => perform(base, history, label, edit, crypto.randomUUID(), new Date().toISOString()))
  if (!done) {
    set({ live: null })
    return false
  }
  // Whoever chose a layer goes on with it, unless the change chose another.
  const kept = done.project.activeLayer === base.activeLayer
  const next = kept && base !== project ? { ...done.project, activeLayer: project.activeLayer } : done.project
  set({
    project: next,
    history: done.history,
    live: null,
    ...goesOnIn(next),
    active: kept ? active : null,
  })
  changed(done.act, done.act.id)
  return true
}
function attempt<T>(work: () => T): T | null {
  try {
    return work()
  } catch (error) {
    if (!(error instanceof RefusedEdit)) throw error
    toast.error(error.message, { id: error.message })
    return null
  }
}

/** Shows a change without making it an act: while a slider or handle is dragged. Each call replaces the one before. */
export function preview(edit: Edit): void {
  const { project, active } = get()
  if (!project) return
  pendingEdit = edit
  set({ live: produce<Project>(workedOn(project, active), edit as (draft: object) => void) })
}
/** Shown at once; many presses or turns with one key are one act, the last. */
export const actInBurst = (label: string, edit: Edit, key = label): void =>
  burst(
    key,
    () => preview(edit),
    () => act(label, edit),
  )
/** Makes the shown change an act. */
export function settle(label: string): boolean {
  return pendingEdit ? act(label, pendingEdit) : false
}
/** Takes the shown change back. */
export function abandon(): void {
  pendingEdit = null
  set({ live: null })
}

function moveTo(next: { project: Project; history: History } | null): boolean {
  if (!next) return false
  pendingEdit = null
  const { project, active } = get()
  set({
    project: next.project,
    history: next.history,
    live: null,
    ...goesOnIn(next.project),
    active: next.project.activeLayer === project?.activeLayer ? active : null,
  })
  changed(null, next.history.head)
  return true
}
export const undoAct = (): boolean => {
  endBurst()
  const { project, history } = get()
  return project ? moveTo(undo(project, history)) : false
}
/** A step is drawn point by point from here on. */
export const beginDrawing = (step: string): void =>
  set(({ drawing, history }) => (drawing === step ? {} : { drawing: step, drawnFrom: history.head }))
/** The steps are as they were where what is being drawn was begun: by going back, or, where other things were changed since, as a change of its own. */
export function giveUpDrawing(): void {
  endBurst()
  abandon()
  const { project, history, home, drawing, drawnFrom } = get(),
    there = project && recipeAt(project, home)?.steps.some(({ id }) => id === drawing)
  set({ drawing: null })
  // It may have been undone already, or drawn in steps that are not worked on now.
  if (!there || !leadsToShown(history, drawnFrom)) return
  const before = goTo(project, history, drawnFrom).project,
    restore = restoreSteps(home, recipeAt(before, home)?.steps ?? [])
  if (diffOf(before, edited(project, restore))) act('Give up the outline', restore)
  else goToAct(drawnFrom)
}
export const redoAct = (): boolean => {
  endBurst()
  const { project, history } = get()
  return project ? moveTo(redo(project, history)) : false
}
export const goToAct = (target: string | null): boolean => {
  endBurst()
  const { project, history } = get()
  if (!project) return false
  try {
    return moveTo(goTo(project, history, target))
  } catch (error) {
    if (!(error instanceof RangeError)) throw error
    toast('The history is still being read; try again in a moment.')
    return false
  }
}
