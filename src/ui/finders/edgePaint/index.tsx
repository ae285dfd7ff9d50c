import { Paintbrush2 } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { type FinderPage, type PanelProps } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { BrushRing, BrushTool, pressBrush, StrokesPanel } from '../paint'
import { PERCENT, StepSlider } from '../StepSlider'
import { counted } from '@/ui/primitives/counted'

function Panel({ step, home }: PanelProps<StepOfKind<'edgePaint'>>) {
  return (
    <>
      <StepSlider step={step} home={home} field="sensitivity" label="Sensitivity" {...PERCENT} />
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
  summary: (step) => `${counted(step.strokes.length, 'stroke')} · sensitivity ${Math.round(step.sensitivity * 100)} %`,
  press: pressBrush('edgePaint'),
  Handles: BrushRing,
  Panel,
  Tool: BrushTool,
  followsPointer: true,
}
