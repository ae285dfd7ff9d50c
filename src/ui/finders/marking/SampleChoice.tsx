import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type RecipeHome } from '@/document/types'
import { Choice } from '@/ui/primitives/Choice'
import { act } from '@/ui/store/bench'

/** Whether all visible layers are looked at, or the active one. */
export function SampleChoice({
  step,
  home,
}: {
  step: StepOfKind<
    'roughBox' | 'marks' | 'spread' | 'regions' | 'subject' | 'sky' | 'liveWire' | 'edgeBand' | 'edgePaint' | 'trimap'
  >
  home: RecipeHome
}) {
  return (
    <Choice
      small
      label="What is looked at"
      value={step.sample}
      options={[
        ['all', 'all layers'],
        ['layer', 'this layer'],
      ]}
      onChange={(sample) => act('Change what is looked at', changeStep(home, step.id!, { sample }))}
    />
  )
}
