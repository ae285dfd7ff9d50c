import { type StepOfKind } from '@/core/steps/registry'
import { Choice, Switch } from '@/ui/primitives/Choice'
import { changeStep } from '@/document/edits'
import { act, preview } from '@/ui/store/bench'
import { type PanelProps } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { AntialiasSwitch } from '../marking/AntialiasSwitch'
import { StepSlider } from '../StepSlider'
import { ToleranceChart } from './ToleranceChart'

export function Panel({ step, home }: PanelProps<StepOfKind<'similarColour'>>) {
  const change = (values: object) => changeStep(home, step.id!, values)
  return (
    <>
      <StepSlider step={step} home={home} field="tolerance" label="Tolerance" whole curve={1.6} />
      <ToleranceChart
        step={step}
        onPreview={(tolerance) => preview(change({ tolerance }))}
        onSettle={(tolerance) => act('Change tolerance', change({ tolerance }))}
      />
      <div className="flex items-center justify-between gap-2">
        <Switch
          label="Connected"
          checked={step.contiguous}
          onChange={(contiguous) => act(contiguous ? 'Connected only' : 'Similar everywhere', change({ contiguous }))}
        />
        <span className="flex items-center gap-1.5 text-[13px]">
          <Choice
            small
            label="Size of the pick, px"
            value={step.patch}
            options={[
              [1, '1'],
              [3, '3'],
              [5, '5'],
            ]}
            onChange={(patch) => act('Change pick size', change({ patch }))}
          />
          px pick
        </span>
      </div>
      <details className="text-[13px]">
        <summary className="cursor-pointer text-xs text-[var(--muted)]">More: comparison, layers, edge</summary>
        <div className="flex flex-wrap items-center gap-x-3 gap-y-2 pt-2">
          <Choice
            small
            label="How colours are compared"
            value={step.metric}
            options={[
              ['channel', 'by channel'],
              ['perceptual', 'as seen'],
            ]}
            onChange={(metric) => act('Change comparison', change({ metric }))}
          />
          <SampleChoice step={step} home={home} />
          <AntialiasSwitch step={step} home={home} />
        </div>
      </details>
    </>
  )
}
