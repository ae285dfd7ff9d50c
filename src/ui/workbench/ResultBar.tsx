'use client'
import { SquareStack } from 'lucide-react'
import { toast } from 'sonner'
import { layerById, makeMask, picksBackground, recipeAt, switchBackground } from '@/document/edits'
import { act, get, set, shownProject, undoAct, useBench } from '@/ui/store/bench'
import { Button, Switch } from '@/ui/primitives/controls'

/** The selection becomes the active layer's mask; its steps move there and stay editable. */
export function makeMaskNow(): void {
  const { project, selectionSteps, layer } = current()
  if (!project || !layer || !selectionSteps) return
  const had = layer.mask !== null
  act(had ? `Replace mask of ${layer.name}` : 'Make mask', makeMask(layer.id))
  set({ home: { kind: 'mask', layer: layer.id } })
  toast.success(`${had ? 'Mask replaced' : 'Mask made'}: ${selectionSteps} ${selectionSteps === 1 ? 'step' : 'steps'}, all still editable.`, { action: { label: 'Undo', onClick: () => { undoAct() } } })
}
function current() { const project = shownProject(get()); return { project, layer: project ? layerById(project, project.activeLayer) : undefined, selectionSteps: project?.selection.steps.length ?? 0 } }

/** Why a mask cannot be made now; nothing when it can. */
export function maskProblem(): string | undefined {
  const { home } = get(), { layer, selectionSteps } = current()
  if (home.kind === 'mask') return 'These are a mask’s steps already: change them, the layer follows.'
  if (!layer) return 'Choose a layer first: the mask goes onto it.'
  if (!selectionSteps) return 'Select something first.'
  return undefined
}

/** How much is selected, whether that is the background, and what can be made of it. */
export function ResultBar() {
  const project = useBench(shownProject), home = useBench((state) => state.home), result = useBench((state) => state.result), selecting = useBench((state) => state.selecting)
  const recipe = project ? recipeAt(project, home) : undefined
  const layer = project ? layerById(project, project.activeLayer) : undefined
  const percent = (share: number) => `${(share * 100).toFixed(1)} %`
  const finders = recipe?.steps.filter((step) => step.kind !== 'invert').length ?? 0
  return (
    <section aria-label="Result" className="space-y-2.5 border-b border-[var(--line)] px-3 py-3">
      <div className="flex justify-between text-[12.5px]" aria-live="polite">
        <span data-selected aria-busy={selecting}>{result ? `${percent(result.selected)} ${home.kind === 'mask' ? 'shown' : 'selected'}` : 'nothing selected'}</span>
        <span className="text-[var(--muted)]">{result ? `soft edge ${percent(result.soft)}` : ''}</span>
      </div>
      <Switch label="What I picked is the background" checked={picksBackground(recipe)} onChange={(on) => { if (finders || !on) act(on ? 'The background was picked' : 'The subject was picked', switchBackground(home, on, crypto.randomUUID())); else toast('Pick something first; then say that it is the background.') }} />
      {home.kind === 'selection' && <Button tone="accent" why={maskProblem()} onClick={makeMaskNow} className="w-full"><SquareStack size={16} />{layer?.mask ? 'Replace mask' : 'Make mask'}{layer ? <span className="truncate font-normal opacity-85">on {layer.name}</span> : null}</Button>}
    </section>
  )
}
