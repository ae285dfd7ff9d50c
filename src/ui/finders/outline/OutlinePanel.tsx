import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Switch } from '@/ui/primitives/Choice'
import { act } from '@/ui/store/bench'
import { type PanelProps } from '../finder'

export function OutlinePanel({ step, home }: PanelProps<StepOfKind<'polygon'>>) {
  return (
    <>
      <p className="text-xs leading-relaxed text-[var(--muted)]">
        {step.points.length} points. Drag a point to move it, press on a side to add one, double-click one to remove it.
      </p>
      <Switch
        label="Smooth edge"
        checked={step.antialias}
        onChange={(antialias) => act('Smooth edge', changeStep(home, step.id!, { antialias }))}
      />
    </>
  )
}
