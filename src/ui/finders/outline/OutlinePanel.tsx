import { type StepOfKind } from '@/core/steps/registry'
import { type PanelProps } from '../finder'
import { AntialiasSwitch } from '../marking/AntialiasSwitch'
import { counted } from '@/ui/primitives/counted'

export function OutlinePanel({ step, home }: PanelProps<StepOfKind<'polygon'>>) {
  return (
    <>
      <p className="text-xs leading-relaxed text-[var(--muted)]">
        {counted(step.points.length, 'point')}. Drag a point to move it, press on a side to add one, double-click one to
        remove it.
      </p>
      <AntialiasSwitch step={step} home={home} />
    </>
  )
}
