import { Rows3 } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Choice } from '@/ui/primitives/Choice'
import { NumberField } from '@/ui/primitives/NumberField'
import { abandon, act, get, preview, shownProject } from '@/ui/store/bench'
import { Grip } from '@/ui/canvas/Grip'
import { snapper } from '@/ui/canvas/snapping'
import { type Drag, type FinderPage, type HandlesProps, type PanelProps, type Press } from '../finder'
import { goOnWith, putStep } from '../putStep'
import { lastBand } from '../remembered'

type BandStep = StepOfKind<'band'>
const LEAST_PX = 4
const FAR = 1e7

/** Dragging mostly down makes a row, mostly across a column; pressed inside the open one, it moves. */
function press(at: Press, open: BandStep | undefined): Drag {
  const step = putStep(at, 'band', { axis: 'row', start: 0, size: 0 }, open)
  const snap = snapper(at.home, at.scale, at.further ? undefined : open?.id)
  if (open && !at.further) {
    const along = open.axis === 'row' ? 1 : 0
    if (at.point[along] >= open.start && at.point[along] <= open.start + open.size) {
      const own = goOnWith(at, open)
      let moved = false
      return {
        move(point, { free }) {
          moved = true
          const start = open.start + Math.round(point[along] - at.point[along]),
            places = [start, start + open.size / 2, start + open.size]
          own.show({ start: start + snap.offset(along ? [] : places, along ? places : [], free)[along] })
        },
        end() {
          snap.end()
          if (moved) own.end('Band')
        },
        cancel: snap.end,
      }
    }
  }
  let drawn = false
  return {
    move(point, { free }, screen) {
      const dx = screen[0] - at.screen[0],
        dy = screen[1] - at.screen[1]
      drawn = Math.hypot(dx, dy) >= LEAST_PX
      if (!drawn) return
      const axis = Math.abs(dy) >= Math.abs(dx) ? 'row' : 'column',
        along = axis === 'row' ? 1 : 0
      const place = point[along] + snap.offset(along ? [] : [point[0]], along ? [point[1]] : [], free)[along]
      const start = Math.round(Math.min(at.point[along], place))
      step.show({ axis, start, size: Math.max(1, Math.round(Math.max(at.point[along], place)) - start) })
    },
    end() {
      snap.end()
      // A click places one as the last one lay.
      const last = lastBand()
      if (!drawn && last) {
        const start = Math.round(at.point[last.axis === 'row' ? 1 : 0] - last.size / 2)
        step.show({ ...last, start })
      }
      if (drawn || last) step.end('Band')
      else if (get().live) abandon()
    },
    cancel: snap.end,
  }
}

function Handles({ step, home, toScreen, fromScreen }: HandlesProps<BandStep>) {
  const project = shownProject(get())
  if (!project) return null
  const { width, height } = project.canvas,
    row = step.axis === 'row'
  const at = (place: number, across: number) =>
    row ? toScreen(across * width, place) : toScreen(place, across * height)
  const along = (x: number, y: number) => Math.round(fromScreen(x, y)[row ? 1 : 0])
  const show = (values: object) => preview(changeStep(home, step.id!, values))
  const end = step.start + step.size
  return (
    <g>
      {[step.start, end].map((place, i) => {
        const [x1, y1] = at(place, 0),
          [x2, y2] = at(place, 1)
        return (
          <g key={i} pointerEvents="none">
            <line {...{ x1, y1, x2, y2 }} stroke="#fff" strokeWidth={3} opacity={0.8} />
            <line {...{ x1, y1, x2, y2 }} stroke="#1b1b1b" />
          </g>
        )
      })}
      <Grip
        label={row ? 'Upper edge' : 'Left edge'}
        cursor={row ? 'ns-resize' : 'ew-resize'}
        x={at(step.start, 0.5)[0]}
        y={at(step.start, 0.5)[1]}
        shape="square"
        drag={(x, y) => {
          const start = Math.min(end - 1, along(x, y))
          show({ start, size: end - start })
        }}
      />
      <Grip
        label={row ? 'Lower edge' : 'Right edge'}
        cursor={row ? 'ns-resize' : 'ew-resize'}
        x={at(end, 0.5)[0]}
        y={at(end, 0.5)[1]}
        shape="square"
        drag={(x, y) => show({ size: Math.max(1, along(x, y) - step.start) })}
      />
    </g>
  )
}

function Panel({ step, home }: PanelProps<BandStep>) {
  const change = (label: string, values: object) => act(label, changeStep(home, step.id!, values))
  const field = (label: string, name: 'start' | 'size', min: number) => (
    <label className="flex items-center justify-between gap-1 text-[13px]">
      {label}
      <NumberField
        label={label}
        value={step[name]}
        min={min}
        max={FAR}
        unit="px"
        digits={step[name] % 1 ? 1 : 0}
        className="w-[88px]"
        onSettle={(value) => change(`Change ${label.toLowerCase()}`, { [name]: value })}
      />
    </label>
  )
  return (
    <>
      <Choice
        small
        label="Direction"
        value={step.axis}
        options={[
          ['row', 'row'],
          ['column', 'column'],
        ]}
        onChange={(axis) => change('Rotate band', { axis })}
      />
      <div className="grid grid-cols-2 gap-x-4">
        {field('Start', 'start', -FAR)}
        {field('Size', 'size', 0)}
      </div>
    </>
  )
}

export const bandPage: FinderPage<'band'> = {
  id: 'band',
  kind: 'band',
  name: 'Band',
  group: 'shape',
  icon: Rows3,
  hint: 'Drag down for a full row, across for a full column; a click places one as the last one lay. Its two edges can be moved.',
  summary: (step) => `${step.axis} · ${Math.round(step.size)} px`,
  press,
  Handles,
  Panel,
  middle: ({ height }) => ({ axis: 'row', start: Math.round(height / 3), size: Math.round(height / 3) }),
}
