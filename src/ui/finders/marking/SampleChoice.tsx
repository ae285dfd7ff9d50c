import { type Step } from '@/core/steps/registry'
import { type Sample } from '@/core/steps/step'
import { changeStep } from '@/document/edits'
import { type RecipeHome } from '@/document/records'
import { act } from '@/ui/store/bench'
import { LooksAt } from './LooksAt'

/** What a step looks at. */
export function SampleChoice({ step, home }: { step: Extract<Step, { readonly sample: Sample }>; home: RecipeHome }) {
  return (
    <LooksAt
      value={step.sample}
      onChange={(sample) => act('Change what is looked at', changeStep(home, step.id!, { sample }))}
    />
  )
}
