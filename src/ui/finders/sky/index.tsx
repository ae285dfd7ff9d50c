import { CloudSun } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { sky } from '@/core/steps/sky'
import { changeStep } from '@/document/edits'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview } from '@/ui/store/bench'
import { type FinderPage, type PanelProps } from '../finder'
import { MakeNow } from '../marking/MakeNow'
import { SampleChoice } from '../marking/SampleChoice'
import { oneClick } from '../oneClick'

function Panel({ step, home }: PanelProps<StepOfKind<'sky'>>) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  const width = (label: string, field: 'openings' | 'twigs', max: number, digits: number) => (
    <Slider
      label={label}
      value={step[field]}
      min={0}
      max={max}
      step={10 ** -digits}
      digits={digits}
      unit="px"
      fallback={sky.fields[field].fallback!}
      curve={2}
      onPreview={(v) => preview(edit({ [field]: v }))}
      onSettle={(v) => act(`Change ${label.toLowerCase()}`, edit({ [field]: v }))}
    />
  )
  return (
    <>
      {width('Openings', 'openings', 1000, 0)}
      {width('Twigs', 'twigs', 30, 1)}
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
