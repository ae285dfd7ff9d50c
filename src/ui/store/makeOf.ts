/** What is made of the selection besides layers: a mask, a saved selection. Each says why it cannot be made now, or makes it. */
import { toast } from 'sonner'
import { layerById, makeMask, saveSelection } from '@/document/edits'
import { type Layer, type Project } from '@/document/records'
import { act, get, set, shownProject, undoAct } from '@/ui/store/bench'
import { counted } from '@/ui/primitives/counted'

function current(): { project: Project | null; layer: Layer | undefined; steps: number } {
  const project = shownProject(get())
  return {
    project,
    layer: project ? layerById(project, project.activeLayer) : undefined,
    steps: project?.selection.steps.length ?? 0,
  }
}

/** The selection becomes the active layer's mask; its steps move there and stay editable. */
export function makeMaskNow(): void {
  const { layer, steps } = current()
  if (!layer || !steps) return
  const had = layer.mask !== null
  act(had ? `Replace mask of ${layer.name}` : 'Make mask', makeMask(layer.id))
  set({ home: { kind: 'mask', layer: layer.id }, focus: 'steps' })
  toast.success(`${had ? 'Mask replaced' : 'Mask made'}: ${counted(steps, 'step')}, all still editable.`, {
    action: {
      label: 'Undo',
      onClick: () => {
        undoAct()
      },
    },
  })
}

/** Why a mask cannot be made now; nothing when it can. */
export function maskProblem(): string | undefined {
  const { layer, steps } = current()
  if (get().home.kind === 'mask') return 'These are a mask’s steps already: change them, the layer follows.'
  if (!layer) return 'Choose a layer first: the mask goes onto it.'
  return steps ? undefined : 'Select something first.'
}

/** Keeps the selection with the project under a name, or a number. */
export function saveSelectionNow(name = ''): void {
  const { project } = current(),
    shown = name.trim() || `Selection ${(project?.saved.length ?? 0) + 1}`
  if (act(`Save selection ${shown}`, saveSelection(crypto.randomUUID(), shown)))
    toast.success(`Saved with the project as ${shown}.`)
}

export function saveProblem(): string | undefined {
  if (get().home.kind === 'mask') return 'These are a mask’s steps: copy them, or make a selection first.'
  return current().steps ? undefined : 'Select something first.'
}
