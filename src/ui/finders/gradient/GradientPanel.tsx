import { Trash2 } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { IconButton } from '@/ui/primitives/Button'
import { NumberField } from '@/ui/primitives/NumberField'
import { RampForm, StopActions } from '@/ui/primitives/RampParts'
import { act } from '@/ui/store/bench'
import { type PanelProps } from '../finder'

/** The form of a gradient, and its stops as a list. */
export function GradientPanel({ step, home }: PanelProps<StepOfKind<'gradient'>>) {
  const edit = (label: string, values: object) => act(label, changeStep(home, step.id!, values)),
    change = (label: string, i: number, stop: readonly [at: number, v: number]) =>
      edit(label, { stops: step.stops.map((each, n) => (n === i ? stop : each)) })
  const share = (word: string, label: string, value: number, settle: (value: number) => void) => (
    <label className="flex items-center gap-1">
      {word}
      <NumberField
        label={label}
        value={value * 100}
        min={0}
        max={100}
        unit="%"
        className="w-14"
        onSettle={(next) => settle(next / 100)}
      />
    </label>
  )
  return (
    <>
      <RampForm shape={step.shape} onChange={(shape) => edit('Change form', { shape })} />
      <ul aria-label="Stops">
        {step.stops.map(([at, v], i) => (
          <li key={i} className="flex items-center justify-between gap-1 text-[13px]">
            <span
              className="size-3.5 rounded-full border border-[var(--line-strong)]"
              style={{ background: `rgb(${[v, v, v].map((c) => Math.round(c * 255)).join(' ')})` }}
            />
            {share('at', `Place of stop ${i + 1}`, at, (to) => change('Move stop', i, [to, v]))}
            {share('covers', `Coverage of stop ${i + 1}`, v, (to) => change('Change stop', i, [at, to]))}
            <IconButton
              label={`Remove stop ${i + 1}`}
              why={step.stops.length > 1 ? undefined : 'A gradient has at least one stop.'}
              onClick={() => edit('Remove stop', { stops: step.stops.filter((_, n) => n !== i) })}
              className="!size-6"
            >
              <Trash2 size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      <StopActions
        add={() => edit('Add stop', { stops: [...step.stops, [0.5, 0.5]] })}
        reverse={() => edit('Reverse gradient', { from: step.to, to: step.from })}
      />
    </>
  )
}
