import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Choice } from '@/ui/primitives/Choice'
import { act } from '@/ui/store/bench'
import { type PanelProps, type StepPage } from '../finder'
import { PERCENT, StepSlider } from '../StepSlider'

type ImageStep = StepOfKind<'image'>

function Panel({ step, home }: PanelProps<ImageStep>) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  return (
    <>
      <Choice
        small
        label="Placed over"
        value={step.fit}
        options={[
          ['canvas', 'canvas'],
          ['layer', 'layer'],
          ['none', 'own size'],
        ]}
        onChange={(fit) => act('Place mask picture', edit({ fit }))}
      />
      <StepSlider step={step} home={home} field="x" label="X" min={-4000} max={4000} unit="px" curve={2} />
      <StepSlider step={step} home={home} field="y" label="Y" min={-4000} max={4000} unit="px" curve={2} />
      <StepSlider step={step} home={home} field="scale" label="Scale" min={1} max={1000} {...PERCENT} curve={2} />
      <StepSlider step={step} home={home} field="rotation" label="Rotate" min={-180} max={180} unit="°" />
      <div className="flex flex-wrap gap-1.5">
        <Choice
          small
          label="What counts"
          value={step.use}
          options={[
            ['luminance', 'brightness'],
            ['alpha', 'alpha'],
          ]}
          onChange={(use) => act('Change what counts', edit({ use }))}
        />
        <Choice
          small
          label="What lies outside it"
          value={step.outside}
          options={[
            ['hidden', 'outside off'],
            ['shown', 'on'],
          ]}
          onChange={(outside) => act('Change outside', edit({ outside }))}
        />
      </div>
    </>
  )
}

/** Made by the mask menus, from a file or the library; here it is changed. */
export const imagePage: StepPage<'image'> = {
  kind: 'image',
  name: 'Picture',
  summary: ({ fit, use }) =>
    `${use === 'alpha' ? 'alpha' : 'brightness'}, ${fit === 'none' ? 'own size' : `over the ${fit}`}`,
  Panel,
}
