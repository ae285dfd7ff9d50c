import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Choice } from '@/ui/primitives/Choice'
import { act } from '@/ui/store/bench'
import { type PanelProps, type StepPage } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'

type TrimapStep = StepOfKind<'trimap'>

function Panel({ step, home }: PanelProps<TrimapStep>) {
  return (
    <>
      <Choice
        small
        label="How what is open is solved"
        value={step.solver}
        options={[
          ['closedForm', 'by windows'],
          ['sampling', 'by samples'],
        ]}
        onChange={(solver) => act('Change solver', changeStep(home, step.id!, { solver }))}
      />
      <SampleChoice step={step} home={home} />
      <p className="text-xs leading-relaxed text-[var(--muted)]">
        White is inside, black outside; what lies between is solved as a matte.
      </p>
    </>
  )
}

/** Made by the mask menus, from a file. */
export const trimapPage: StepPage<'trimap'> = {
  kind: 'trimap',
  name: 'Trimap',
  summary: ({ solver }) => (solver === 'sampling' ? 'by samples' : 'by windows'),
  Panel,
}
