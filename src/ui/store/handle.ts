/** `wilyScissor` in the page's console: what hands do to the records, by name. The journeys draw edits at random through it. */
import { type Edit } from '@/document/history'
import { type Project } from '@/document/records'
import { abandon, act, get, goToAct, goToStage, preview, redoAct, settle, shownProject, undoAct } from './bench'

export interface Handle {
  records(): Project | null
  /** The act that is shown. */
  head(): string | null
  act(label: string, edit: Edit): boolean
  preview(edit: Edit): void
  settle(label: string): boolean
  abandon(): void
  undo(): boolean
  redo(): boolean
  /** To any act; null: the start. */
  goTo(act: string | null): boolean
  /** All acts that are known, oldest first. */
  acts(): string[]
  /** The ids of changes that were set aside. */
  aside(): string[]
  stage(stage: ReturnType<typeof get>['stage']): void
}
declare global {
  var wilyScissor: Handle | undefined
}

export function giveHandle(): void {
  globalThis.wilyScissor = {
    records: () => shownProject(get()),
    head: () => get().history.head,
    act,
    preview,
    settle,
    abandon,
    undo: undoAct,
    redo: redoAct,
    goTo: goToAct,
    acts: () => [...get().history.acts.keys()],
    aside: () => get().aside.map((entry) => entry.id),
    stage: goToStage,
  }
}
