/** Bundled into the page: draws an edit and makes it through the page's own handle. */
import { parseProject } from '@/document/validate'
import { type Picture } from '@/document/records'
import { anyEdit } from './edits'
import { randomOf } from './random'

Object.assign(globalThis, {
  madeUp: {
    /** One edit, or an undo; says what was done. */
    edit(seed: number, pictures: readonly Picture[]): string {
      const random = randomOf(seed),
        page = globalThis.wilyScissor!,
        records = page.records()!
      const turn = random()
      if (turn < 0.12) return page.undo() ? 'undo' : 'nothing to undo'
      if (turn < 0.18) return page.redo() ? 'redo' : 'nothing to redo'
      let made = 0
      const { label, edit } = anyEdit(random, records, pictures, () => `m${seed}-${++made}`)
      if (random.chance(0.2)) {
        // As a slider does: shown first, then done.
        page.preview(edit)
        return page.settle(label) ? `${label}, shown first` : `${label}: nothing`
      }
      return page.act(label, edit) ? label : `${label}: nothing`
    },
    valid: () => Boolean(parseProject(globalThis.wilyScissor!.records())),
  },
})
