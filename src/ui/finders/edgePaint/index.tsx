import { Paintbrush2 } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview } from '@/ui/store/bench'
import { type FinderPage, type PanelProps } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { BrushRing, BrushTool, pressBrush, StrokesPanel } from '../paint'

function Panel({ step, home }: PanelProps<StepOfKind<'edgePaint'>>) {
  const edit = (sensitivity: number) => changeStep(home, step.id!, { sensitivity: sensitivity / 100 })
  return (
    <>
      <Slider
        label="Sensitivity"
        value={step.sensitivity * 100}
        min={0}
        max={100}
        step={1}
        unit="%"
        fallback={50}
        onPreview={(v) => preview(edit(v))}
        onSettle={(v) => act('Change sensitivity', edit(v))}
      />
      <StrokesPanel step={step} home={home} />
      <SampleChoice step={step} home={home} />
    </>
  )
}

export const edgePaintPage: FinderPage<'edgePaint'> = {
  id: 'edgePaint',
  kind: 'edgePaint',
  name: 'Edge paint',
  group: 'brush',
  adds: true,
  icon: Paintbrush2,
  hint: 'Drag inside an edge: the brush takes what is like its middle and stops at edges. Alt paints away.',
  summary: (step) =>
    `${step.strokes.length} ${step.strokes.length === 1 ? 'stroke' : 'strokes'} · sensitivity ${Math.round(step.sensitivity * 100)} %`,
  press: pressBrush('edgePaint'),
  Handles: BrushRing,
  Panel,
  Tool: BrushTool,
  followsPointer: true,
}
