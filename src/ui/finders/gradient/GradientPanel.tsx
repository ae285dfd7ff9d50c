import { Trash2 } from 'lucide-react'
import { RAMP_SHAPES } from '@/core/raster/ramp'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { IconButton } from '@/ui/primitives/Button'
import { Select } from '@/ui/primitives/Choice'
import { NumberField } from '@/ui/primitives/NumberField'
import { act } from '@/ui/store/bench'
import { type PanelProps } from '../finder'

/** The form of a gradient, and its stops as a list. */
export function GradientPanel({ step, home }: PanelProps<StepOfKind<'gradient'>>) {
  const edit = (label: string, values: object) => act(label, changeStep(home, step.id!, values))
  return (
    <>
      <div className="flex items-center justify-between text-[13px]">
        Form
        <Select
          label="Form of the gradient"
          value={step.shape}
          options={RAMP_SHAPES.map((shape) => [shape, shape] as const)}
          onChange={(shape) => edit('Change form', { shape })}
        />
      </div>
      <ul aria-label="Stops">
        {step.stops.map(([at, v], i) => (
          <li key={i} className="flex items-center justify-between gap-1 text-[13px]">
            <span
              className="size-3.5 rounded-full border border-[var(--line-strong)]"
              style={{ background: `rgb(${[v, v, v].map((c) => Math.round(c * 255)).join(' ')})` }}
            />
            <label className="flex items-center">
              at
              <NumberField
                label={`Place of stop ${i + 1}`}
                value={at * 100}
                min={0}
                max={100}
                unit="%"
                className="w-14"
                onSettle={(next) =>
                  edit('Move stop', { stops: step.stops.map((stop, n) => (n === i ? [next / 100, stop[1]] : stop)) })
                }
              />
            </label>
            <label className="flex items-center">
              covers
              <NumberField
                label={`Coverage of stop ${i + 1}`}
                value={v * 100}
                min={0}
                max={100}
                unit="%"
                className="w-14"
                onSettle={(next) =>
                  edit('Change stop', { stops: step.stops.map((stop, n) => (n === i ? [stop[0], next / 100] : stop)) })
                }
              />
            </label>
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
      <div className="flex justify-between">
        <button
          type="button"
          className="text-xs text-[var(--muted)] underline underline-offset-2"
          onClick={() => edit('Add stop', { stops: [...step.stops, [0.5, 0.5]] })}
        >
          add a stop
        </button>
        <button
          type="button"
          className="text-xs text-[var(--muted)] underline underline-offset-2"
          onClick={() => edit('Reverse gradient', { from: step.to, to: step.from })}
        >
          reverse
        </button>
      </div>
    </>
  )
}
