import { type StepOfKind } from '@/core/steps/registry'
import { type PanelProps, type StepPage } from '../finder'
import { ChosenSolver } from '../marking/ChosenSolver'
import { SampleChoice } from '../marking/SampleChoice'

type TrimapStep = StepOfKind<'trimap'>

function Panel({ step, home }: PanelProps<TrimapStep>) {
  return (
    <>
      <ChosenSolver step={step} home={home} />
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
  summary: () => 'solved as a matte',
  Panel,
}
