import { CloudSun } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { type FinderPage, type PanelProps } from '../finder'
import { MakeNow } from '../marking/MakeNow'
import { SampleChoice } from '../marking/SampleChoice'
import { oneClick } from '../oneClick'
import { StepSlider } from '../StepSlider'

function Panel({ step, home }: PanelProps<StepOfKind<'sky'>>) {
  return (
    <>
      <StepSlider step={step} home={home} field="openings" label="Openings" max={1000} unit="px" curve={2} />
      <StepSlider step={step} home={home} field="twigs" label="Twigs" max={30} digits={1} unit="px" curve={2} />
      <SampleChoice step={step} home={home} />
    </>
  )
}

export const skyPage: FinderPage<'sky'> = {
  id: 'sky',
  kind: 'sky',
  name: 'Sky',
  group: 'object',
  icon: CloudSun,
  hint: 'Finds the sky, with openings between branches up to a width; twigs and wires from a thickness on stay.',
  summary: (step) => `openings to ${step.openings} px, twigs from ${step.twigs} px`,
  press: oneClick('sky', 'Sky'),
  Handles: () => null,
  Panel,
  Tool: () => <MakeNow kind="sky" name="Find the sky" />,
  middle: () => ({}),
}
