import { Trash2 } from 'lucide-react'
import { GradientGlyph } from '@/ui/primitives/glyphs'
import { RAMP_SHAPES } from '@/core/raster/ramp'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { IconButton } from '@/ui/primitives/Button'
import { NumberField } from '@/ui/primitives/NumberField'
import { Select } from '@/ui/primitives/Choice'
import { act, preview } from '@/ui/store/bench'
import { RampHandles } from '@/ui/canvas/RampHandles'
import { type Drag, type FinderPage, type HandlesProps, type PanelProps, type Press } from '../finder'
import { putStep } from '../putStep'

type GradientStep = StepOfKind<'gradient'>
/** Shorter drags (CSS px) are a slip of the hand. */
const LEAST_PX = 4

function press(at: Press, open: GradientStep | undefined): Drag {
  const step = putStep(
    at,
    'gradient',
    { shape: open?.shape ?? 'linear', from: at.point, to: at.point, ...(open ? { stops: open.stops } : {}) },
    open,
  )
  let drawn = false
  return {
    move([x, y], { shift }) {
      let [dx, dy] = [x - at.point[0], y - at.point[1]]
      if (shift) {
        if (Math.abs(dx) > 2 * Math.abs(dy)) dy = 0
        else if (Math.abs(dy) > 2 * Math.abs(dx)) dx = 0
        else dy = Math.sign(dy) * Math.abs(dx)
      }
      drawn ||= Math.hypot(dx, dy) * at.scale > LEAST_PX
      if (drawn)
        step.show({ from: at.point.map(Math.round), to: [Math.round(at.point[0] + dx), Math.round(at.point[1] + dy)] })
    },
    end() {
      if (drawn) step.end('Gradient')
    },
  }
}

function Handles({ step, home, toScreen, fromScreen }: HandlesProps<GradientStep>) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  return (
    <RampHandles
      from={step.from}
      to={step.to}
      places={step.stops.map(([at]) => at)}
      colours={step.stops.map(([, v]) => {
        const g = Math.round(v * 255)
        return `rgb(${g} ${g} ${g})`
      })}
      toScreen={toScreen}
      fromScreen={fromScreen}
      moveEnd={(end, point) => preview(edit({ [end]: point }))}
      moveStop={(i, place) =>
        preview(edit({ stops: step.stops.map((stop, n) => (n === i ? [place, stop[1]] : stop)) }))
      }
    />
  )
}

function Panel({ step, home }: PanelProps<GradientStep>) {
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

export const gradientPage: FinderPage<'gradient'> = {
  id: 'gradient',
  kind: 'gradient',
  name: 'Gradient',
  group: 'brush',
  icon: GradientGlyph,
  hint: 'Drag from where nothing is selected to where everything is. The ends and the stops between them can be moved later. Shift while dragging keeps it level, upright or at 45°.',
  summary: ({ shape, stops }) => `${shape}, ${stops.length} ${stops.length === 1 ? 'stop' : 'stops'}`,
  press,
  Handles,
  Panel,
  middle: ({ width, height }) => ({
    shape: 'linear',
    from: [Math.round(width * 0.25), Math.round(height / 2)],
    to: [Math.round(width * 0.75), Math.round(height / 2)],
  }),
}
