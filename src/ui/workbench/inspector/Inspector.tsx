'use client'
import { shownProject, useBench } from '@/ui/store/bench'
import { focusOf } from '@/ui/store/focus'
import { later } from '@/ui/primitives/later'
import { SelectionInspector } from './SelectionInspector'
import { StepInspector } from './StepInspector'

const LayerInspector = later(() => import('./LayerInspector').then((module) => module.LayerInspector))
const MaskInspector = later(() => import('./MaskInspector').then((module) => module.MaskInspector))

/** The values of what is worked on, and nothing else's. */
export function Inspector() {
  const state = useBench((all) => all.focus),
    openStep = useBench((all) => all.openStep),
    home = useBench((all) => all.home),
    stage = useBench((all) => all.stage),
    project = useBench(shownProject)
  if (!project) return null
  const focus = focusOf({ stage, home, openStep, focus: state }, project)
  return (
    <section aria-label="Inspector" className="flex max-h-[56%] min-h-[170px] shrink-0 flex-col">
      {focus.kind === 'step' && (
        <StepInspector key={focus.step.id} step={focus.step} home={focus.home} of={focus.of?.name} />
      )}
      {focus.kind === 'selection' && <SelectionInspector />}
      {focus.kind === 'mask' && <MaskInspector key={focus.layer.id} layer={focus.layer} project={project} />}
      {focus.kind === 'layer' && <LayerInspector key={focus.layer.id} layer={focus.layer} project={project} />}
    </section>
  )
}
