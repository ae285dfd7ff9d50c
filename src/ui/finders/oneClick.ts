import { get } from '@/ui/store/bench'
import { type FinderPage } from './finder'
import { putStep } from './putStep'

/** What finds something by itself, wherever it is pressed. */
export type OneClickKind = 'subject' | 'sky' | 'water'

/** Its press. @param label of the act @param values that the step has, whatever an open one had */
export const oneClick =
  <K extends OneClickKind>(kind: K, label: string, values: object = { hidden: false }): FinderPage<K>['press'] =>
  (at, open) => {
    const step = putStep(at, kind, {}, open)
    step.show(values)
    return {
      move() {},
      end() {
        if (get().live) step.end(label)
      },
    }
  }
