import { parseStep } from '@/core/formats/recipe'
import { type Step } from '@/core/steps/registry'
import { addStep, changeStep } from '@/document/edits'
import { type Edit } from '@/document/history'
import { preview, set, settle } from '@/ui/store/bench'
import { type Press } from './finder'

export interface StepInProgress {
  /** Shows the step with these values. */
  show(values: object): void
  /** Makes it an act. */
  end(label: string): void
}

/**
 * A step being made by a press: a new one, or the open one made anew. `name` is the finder's, for the label.
 * A new step starts from `start` and gets an id of its own, and its card opens.
 */
export function putStep(press: Press, kind: Step['kind'], start: object, open: Step | undefined): StepInProgress {
  const anew = open && !press.further
  const id = anew ? open.id! : crypto.randomUUID()
  const edit = (values: object): Edit =>
    anew
      ? changeStep(press.home, id, values)
      : addStep(press.home, parseStep({ kind, id, op: press.first ? 'add' : press.op, ...start, ...values }))
  return {
    show(values) {
      preview(edit(values))
      set({ openStep: id })
    },
    end(label) {
      settle(anew ? `Change ${label}` : label)
    },
  }
}
