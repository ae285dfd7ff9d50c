import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Choice } from '@/ui/primitives/Choice'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview } from '@/ui/store/bench'
import { type PanelProps, type StepPage } from '../finder'

type ImageStep = StepOfKind<'image'>

function Panel({ step, home }: PanelProps<ImageStep>) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  const slider = (
    label: string,
    field: string,
    value: number,
    min: number,
    max: number,
    unit: string,
    fallback: number,
    factor = 1,
    curve = 1,
  ) => (
    <Slider
      label={label}
      value={value * factor}
      min={min}
      max={max}
      step={1}
      unit={unit}
      fallback={fallback}
      curve={curve}
      onPreview={(v) => preview(edit({ [field]: v / factor }))}
      onSettle={(v) => act(`Change ${label.toLowerCase()}`, edit({ [field]: v / factor }))}
    />
  )
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
      {slider('X', 'x', step.x, -4000, 4000, 'px', 0, 1, 2)}
      {slider('Y', 'y', step.y, -4000, 4000, 'px', 0, 1, 2)}
      {slider('Scale', 'scale', step.scale, 1, 1000, '%', 100, 100, 2)}
      {slider('Rotate', 'rotation', step.rotation, -180, 180, '°', 0)}
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
