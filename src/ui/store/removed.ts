import { toast } from 'sonner'
import { type Edit } from '@/document/history'
import { act, get, undoAct } from './bench'

/** Takes something away, and offers to bring it back. @param what as it stands at the head of a sentence */
export function removed(label: string, what: string, edit: Edit): boolean {
  const done = act(label, edit),
    { head } = get().history
  if (done)
    toast(`${what} was removed.`, {
      id: 'removed',
      action: {
        label: 'Undo',
        onClick: () => {
          if (get().history.head === head) undoAct()
          else toast('Something else was done since; the history brings it back.')
        },
      },
    })
  return done
}
