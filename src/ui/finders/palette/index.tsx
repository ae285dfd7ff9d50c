import { SwatchBook } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Choice } from '@/ui/primitives/Choice'
import { act } from '@/ui/store/bench'
import { type FinderPage, type PanelProps } from '../finder'
import { PaletteValues } from './PaletteValues'
import { press } from './press'

function Panel({ step, home }: PanelProps<StepOfKind<'palette'>>) {
  return (
    <>
      <PaletteValues step={step} home={home} />
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
