import { CloudSun } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Slider } from '@/ui/primitives/Slider'
import { act, get, preview } from '@/ui/store/bench'
import { type FinderPage, type PanelProps } from '../finder'
import { MakeNow } from '../marking/MakeNow'
import { SampleChoice } from '../marking/SampleChoice'
import { putStep } from '../putStep'

function Panel({ step, home }: PanelProps<StepOfKind<'sky'>>) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  const share = (label: string, field: 'blend' | 'fillGaps' | 'detail', fallback: number) => (
    <Slider
      label={label}
      value={step[field] * 100}
      min={0}
      max={100}
      step={1}
      unit="%"
      fallback={fallback}
      onPreview={(v) => preview(edit({ [field]: v / 100 }))}
      onSettle={(v) => act(`Change ${label.toLowerCase()}`, edit({ [field]: v / 100 }))}
    />
  )
  return (
    <>
      <Slider
        label="Offset"
        value={step.offset}
        min={-100}
        max={100}
        step={0.5}
        digits={1}
        unit="px"
        fallback={0}
        curve={2}
        onPreview={(offset) => preview(edit({ offset }))}
        onSettle={(offset) => act('Change offset', edit({ offset }))}
      />
      {share('Blend', 'blend', 30)}
      {share('Gaps', 'fillGaps', 10)}
      {share('Detail', 'detail', 30)}
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
  hint: 'Finds the sky, with the openings between branches; twigs and wires stay. Its card moves and softens the boundary.',
  summary: (step) =>
    [step.offset !== 0 && `offset ${step.offset}`, `blend ${Math.round(step.blend * 100)} %`]
      .filter(Boolean)
      .join(' · '),
  press: (at, open) => {
    const step = putStep(at, 'sky', {}, open)
    step.show({ hidden: false })
    return {
      move() {},
      end() {
        if (get().live) step.end('Sky')
      },
    }
  },
  Handles: () => null,
  Panel,
  Tool: () => <MakeNow kind="sky" name="Find the sky" />,
  middle: () => ({}),
}
