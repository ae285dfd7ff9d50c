import { type StepOfKind } from '@/core/steps/registry'
import { type PanelProps } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { PaletteValues } from './PaletteValues'

export function PalettePanel({ step, home }: PanelProps<StepOfKind<'palette'>>) {
  return (
    <>
      <PaletteValues step={step} home={home} />
      <SampleChoice step={step} home={home} />
    </>
  )
}
