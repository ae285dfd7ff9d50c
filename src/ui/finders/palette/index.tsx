import { SwatchBook } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { type FinderPage, type PanelProps } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { PaletteValues } from './PaletteValues'
import { press } from './press'

function Panel({ step, home }: PanelProps<StepOfKind<'palette'>>) {
  return (
    <>
      <PaletteValues step={step} home={home} />
      <SampleChoice step={step} home={home} />
    </>
  )
}

export const palettePage: FinderPage<'palette'> = {
  id: 'palette',
  kind: 'palette',
  name: 'Palette',
  group: 'colour',
  icon: SwatchBook,
  hint: 'Click several colours; what resembles any of them is found, softly. A colour goes when you press its swatch. Alt-click begins a palette that takes away.',
  summary: (step) =>
    `${step.colours.length} ${step.colours.length === 1 ? 'colour' : 'colours'} · spread ${step.spread}`,
  press,
  Handles: () => null,
  Panel,
}
