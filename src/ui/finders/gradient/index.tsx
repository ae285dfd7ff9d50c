import { GradientGlyph } from '@/ui/primitives/glyphs'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { later } from '@/ui/primitives/later'
import { preview } from '@/ui/store/bench'
import { RampHandles } from '@/ui/canvas/RampHandles'
import { type Drag, type FinderPage, type HandlesProps, type Press } from '../finder'
import { putStep } from '../putStep'
import { counted } from '@/ui/primitives/counted'

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

const Panel = later(() => import('./GradientPanel').then((module) => module.GradientPanel))

export const gradientPage: FinderPage<'gradient'> = {
  id: 'gradient',
  kind: 'gradient',
  name: 'Gradient',
  group: 'brush',
  icon: GradientGlyph,
  hint: 'Drag from where nothing is selected to where everything is. The ends and the stops between them can be moved later. Shift while dragging keeps it level, upright or at 45°.',
  summary: ({ shape, stops }) => `${shape}, ${counted(stops.length, 'stop')}`,
  press,
  Handles,
  Panel,
  middle: ({ width, height }) => ({
    shape: 'linear',
    from: [Math.round(width * 0.25), Math.round(height / 2)],
    to: [Math.round(width * 0.75), Math.round(height / 2)],
  }),
}
