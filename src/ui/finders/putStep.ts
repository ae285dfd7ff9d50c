import { parseStep } from '@/core/formats/recipe'
import { type Step } from '@/core/steps/registry'
import { addStep, changeStep, putSteps } from '@/document/edits'
import { type Edit } from '@/document/history'
import { preview, set, settle } from '@/ui/store/bench'
import { type Press } from './finder'
import { remembered } from './remembered'

export interface StepInProgress {
  /** Shows the step with these values. */
  show(values: object): void
  /** Makes it an act. */
  end(label: string): void
}

/** A new step as the press says: after those there are, or instead of all of them. */
export const beginStep = (
  { home, replaces, first, op }: Pick<Press, 'home' | 'replaces' | 'first' | 'op'>,
  step: object,
): Edit =>
  replaces
    ? putSteps(home, [parseStep({ ...step, op: 'add' })], true)
    : addStep(home, parseStep({ op: first ? 'add' : op, ...step }))

/**
 * A step being made by a press: a new one, or the open one made again, with the values it had. `name` is the finder's, for the label.
 * A new step starts from `start`, with what is remembered of the last of its kind, gets an id of its own, and is opened.
 */
export function putStep(press: Press, kind: Step['kind'], start: object, open: Step | undefined): StepInProgress {
  const again = open && !press.further
  const id = again ? open.id! : crypto.randomUUID()
  const edit = (values: object): Edit =>
    again && press.replaces
      ? putSteps(
          press.home,
          [parseStep({ ...open, scene: undefined, sceneLayer: undefined, op: 'add', ...values })],
          true,
        )
      : again
        ? changeStep(press.home, id, values)
        : beginStep(press, { kind, id, ...remembered(kind), ...start, ...values })
  return {
    show(values) {
      preview(edit(values))
      set({ openStep: id })
    },
    end(label) {
      settle(again ? `Change ${label}` : label)
    },
  }
}

/** The open step itself, moved or gone on with: those beside it stay, whatever the next use does. */
export const goOnWith = (press: Press, open: Step): StepInProgress =>
  putStep({ ...press, replaces: false, further: false }, open.kind, {}, open)
