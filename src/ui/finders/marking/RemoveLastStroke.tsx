import { Trash2 } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { IconButton } from '@/ui/primitives/Button'
import { act } from '@/ui/store/bench'
import { type PanelProps } from '../finder'

/** Takes a step's newest stroke away; the only one goes with the step. */
export function RemoveLastStroke({ step, home }: PanelProps<StepOfKind<'paint' | 'edgePaint' | 'spread'>>) {
  return (
    <IconButton
      label="Remove the last stroke"
      why={step.strokes.length > 1 ? undefined : 'It is the only one: remove the step instead.'}
      onClick={() => act('Remove stroke', changeStep(home, step.id!, { strokes: step.strokes.slice(0, -1) }))}
    >
      <Trash2 size={15} />
    </IconButton>
  )
}
