import { Paintbrush } from 'lucide-react'
import { type Stroke } from '@/core/raster/stroke'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Choice, Switch } from '@/ui/primitives/Choice'
import { act, get, preview, set, settle, useBench } from '@/ui/store/bench'
import { type Drag, type FinderPage, type HandlesProps, type PanelProps, type Press } from '../finder'
import { RemoveLastStroke } from '../marking/RemoveLastStroke'
import { beginStep } from '../putStep'
import { BrushSlider } from './BrushSlider'
import { counted } from '@/ui/primitives/counted'

type PaintStep = StepOfKind<'paint' | 'edgePaint'>
const TENTH = (v: number) => Math.round(v * 10) / 10

/**
 * A drag is a stroke of the open step, erasing while Erase is on; Alt begins a step of its own. Shift draws straight: at the press
 * from the end of the last stroke, while dragging from where it was pressed.
 */
export const pressBrush =
  (kind: 'paint' | 'edgePaint', start: object = {}) =>
  (at: Press, open: PaintStep | undefined): Drag => {
    const { size, hardness, strength, spacing, tip, erase } = get().brush
    const from = at.shift && at.op === 'add' ? open?.strokes.at(-1)?.points.at(-1) : undefined
    // Strokes that do the same go on with the step; keys held begin a new one, and so does the first plain stroke after it.
    const into = open && (from || (!at.keys && open.op === at.op)) ? open : undefined
    const id = into?.id ?? crypto.randomUUID()
    const points: Stroke['points'][number][] = []
    const put = () => {
      const stroke: Stroke = {
        points: [...points],
        size,
        hardness,
        strength,
        spacing,
        tip,
        erase: Boolean(into) && erase,
      }
      preview(
        into
          ? changeStep(at.home, id, { strokes: [...into.strokes, stroke] })
          : beginStep(at, { kind, id, ...start, strokes: [stroke] }),
      )
    }
    const add = ([x, y]: readonly [number, number], pressure?: number) =>
      points.push(
        pressure === undefined ? [TENTH(x), TENTH(y)] : [TENTH(x), TENTH(y), Math.round(pressure * 100) / 100],
      )
    if (from) points.push(from)
    add(at.point, at.pressure)
    put()
    set({ openStep: id })
    /** How many points stand before the straight piece that is drawn now. */
    let straightFrom: number | null = null
    let shiftHeld = at.shift
    return {
      move(point, { shift, pressure }) {
        shiftHeld &&= shift // held since the press it has done its work
        if (shift && !shiftHeld) {
          straightFrom ??= points.length
          points.length = straightFrom
        } else straightFrom = null
        add(point, pressure)
        put()
      },
      end() {
        settle(erase && into ? 'Erase' : kind === 'paint' ? 'Paint' : 'Edge paint')
      },
    }
  }

/** The brush where the pointer is: its size, and its hard core where it is soft. */
export function BrushRing({ toScreen, pointer }: Pick<HandlesProps<PaintStep>, 'toScreen' | 'pointer'>) {
  const { size, hardness, tip } = useBench((state) => state.brush)
  if (!pointer) return null
  const [ax] = toScreen(0, 0),
    [bx] = toScreen(1, 0),
    radius = (Math.abs(bx - ax) * size) / 2
  const ring = (r: number, dash?: string) =>
    [
      ['#fff', 2.5],
      ['#1b1b1b', 1],
    ].map(([stroke, width]) =>
      tip === 'round' ? (
        <circle
          key={String(stroke)}
          cx={pointer[0]}
          cy={pointer[1]}
          r={r}
          fill="none"
          stroke={String(stroke)}
          strokeWidth={width}
          strokeDasharray={dash}
        />
      ) : (
        <rect
          key={String(stroke)}
          x={pointer[0] - r}
          y={pointer[1] - r}
          width={2 * r}
          height={2 * r}
          fill="none"
          stroke={String(stroke)}
          strokeWidth={width}
          strokeDasharray={dash}
        />
      ),
    )
  return (
    <g pointerEvents="none">
      {ring(radius)}
      {hardness < 0.95 && radius * hardness > 3 && ring(radius * hardness, '3 3')}
    </g>
  )
}

export function StrokesPanel({ step, home }: PanelProps<PaintStep>) {
  const brush = useBench((state) => state.brush)
  const last = step.strokes.at(-1)
  const edit = (change: Partial<Stroke>) =>
    changeStep(home, step.id!, { strokes: step.strokes.map((stroke) => ({ ...stroke, ...change })) })
  const all = (['size', 'hardness', 'strength', 'spacing'] as const).map(
    (name) =>
      last && (
        <BrushSlider
          key={name}
          name={name}
          value={last[name]}
          onPreview={(change) => preview(edit(change))}
          onSettle={(change, label) => act(`Change ${label.toLowerCase()}`, edit(change))}
        />
      ),
  )
  return (
    <>
      <p className="text-xs text-[var(--muted)]">
        {step.strokes.length === 1 ? 'Its stroke' : `All ${step.strokes.length} strokes`}, changed afterwards:
      </p>
      {all}
      <div className="flex items-center justify-between">
        <Switch
          label="Next strokes erase"
          checked={brush.erase}
          onChange={(erase) => set({ brush: { ...brush, erase } })}
        />
        <RemoveLastStroke step={step} home={home} />
      </div>
    </>
  )
}

/** The brush for the next strokes, below the finders. */
export function BrushTool() {
  const brush = useBench((state) => state.brush)
  const change = (values: Partial<typeof brush>) => set({ brush: { ...brush, ...values } }),
    of = <N extends 'size' | 'hardness' | 'strength' | 'spacing'>(name: N) => ({
      name,
      value: brush[name],
      onPreview: change,
      onSettle: change,
    })
  return (
    <div className="mb-3 space-y-1 px-1">
      <BrushSlider {...of('size')} />
      <BrushSlider {...of('hardness')} />
      <details className="text-[13px]">
        <summary className="cursor-pointer text-xs text-[var(--muted)]">More: strength, spacing, tip</summary>
        <BrushSlider {...of('strength')} />
        <BrushSlider {...of('spacing')} />
        <Choice
          small
          label="Tip"
          value={brush.tip}
          options={[
            ['round', 'round'],
            ['square', 'square'],
          ]}
          onChange={(tip) => change({ tip })}
        />
      </details>
    </div>
  )
}

export const paintPage: FinderPage<'paint'> = {
  id: 'paint',
  kind: 'paint',
  name: 'Paint',
  group: 'brush',
  adds: true,
  icon: Paintbrush,
  hint: 'Drag to paint, with Alt away, with Shift straight. [ and ] change the size.',
  summary: (step) => counted(step.strokes.length, 'stroke'),
  press: pressBrush('paint'),
  Handles: BrushRing,
  Panel: StrokesPanel,
  Tool: BrushTool,
  followsPointer: true,
}
