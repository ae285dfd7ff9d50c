import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Choice } from '@/ui/primitives/Choice'
import { act } from '@/ui/store/bench'
import { type PanelProps, type StepPage } from '../finder'

function Panel({ step, home }: PanelProps<StepOfKind<'layer'>>) {
  return (
    <Choice
      small
      label="What counts"
      value={step.use}
      options={[
        ['alpha', 'what it covers'],
        ['luminance', 'brightness'],
        ['mask', 'its mask'],
      ]}
      onChange={(use) => act('Change what counts', changeStep(home, step.id!, { use }))}
    />
  )
}

/** Made by the mask menus; here it is changed. */
export const layerPage: StepPage<'layer'> = {
  kind: 'layer',
  name: 'Layer',
  summary: ({ use }) => ({ alpha: 'what it covers', luminance: 'its brightness', mask: 'its mask' })[use],
  Panel,
}
