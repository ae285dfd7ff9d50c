import { CircleDashed } from 'lucide-react'
import { edgeBand } from '@/core/steps/edgeBand'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview, useBench } from '@/ui/store/bench'
import { Grip } from '@/ui/canvas/Grip'
import { type FinderPage, type HandlesProps, type PanelProps } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { OutlineHandles } from '../outline/OutlineHandles'
import { StepSlider } from '../StepSlider'
import { closeOutline, pressCorners, takeCornerBack } from '../outline/pressCorners'
import { counted } from '@/ui/primitives/counted'

type BandStep = StepOfKind<'edgeBand'>
/** Width grips for more points than this would hide the picture. */
const MOST_WIDTHS = 40

const widthAt = (step: BandStep, i: number): number => step.widths?.[i] ?? step.width

/** The band under the outline, a grip at each point for its width there, and the outline's own handles. */
function Handles(props: HandlesProps<BandStep>) {
  const { step, home, toScreen } = props,
    n = step.points.length,
    drawing = useBench((state) => state.drawing === step.id)
  const [ax] = toScreen(0, 0),
    [bx] = toScreen(1, 0),
    scale = Math.abs(bx - ax),
    at = step.points.map(([x, y]) => toScreen(x, y))
  const area = at.reduce((sum, [x, y], i) => {
      const [u, v] = at[(i + 1) % n]
      return sum + x * v - u * y
    }, 0),
    out = area > 0 ? 1 : -1
  const outward = (i: number): [number, number] => {
    const [px, py] = at[(i + n - 1) % n],
      [qx, qy] = at[(i + 1) % n],
      length = Math.hypot(qx - px, qy - py) || 1
    return [(out * (qy - py)) / length, (-out * (qx - px)) / length]
  }
  return (
    <g>
      <g pointerEvents="none" stroke="#fff" opacity={0.32} strokeLinecap="round">
        {at.slice(0, drawing ? n - 1 : n).map(([x, y], i) => {
          const [u, v] = at[(i + 1) % n]
          return (
            <line
              key={i}
              x1={x}
              y1={y}
              x2={u}
              y2={v}
              strokeWidth={(widthAt(step, i) + widthAt(step, (i + 1) % n)) * scale}
            />
          )
        })}
      </g>
      <OutlineHandles {...props} />
      {!drawing &&
        n >= 3 &&
        n <= MOST_WIDTHS &&
        at.map(([x, y], i) => {
          const [nx, ny] = outward(i),
            far = widthAt(step, i) * scale
          return (
            <Grip
              key={i}
              label={`Width at point ${i + 1}`}
              cursor="ew-resize"
              shape="round"
              small
              x={x + nx * Math.max(14, far)}
              y={y + ny * Math.max(14, far)}
              drag={(px, py) =>
                preview(
                  changeStep(home, step.id!, {
                    widths: step.points.map((_, k) =>
                      k === i
                        ? Math.max(1, Math.min(1000, Math.round(((px - x) * nx + (py - y) * ny) / scale)))
                        : widthAt(step, k),
                    ),
                  }),
                )
              }
            />
          )
        })}
    </g>
  )
}

function Panel({ step, home }: PanelProps<BandStep>) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  // Points that are wider or narrower stay so, in proportion.
  const width = (v: number) =>
    edit({
      width: v,
      ...(step.widths
        ? { widths: step.widths.map((each) => Math.max(1, Math.min(1000, Math.round((each * v) / step.width)))) }
        : {}),
    })
  return (
    <>
      <Slider
        label="Band"
        value={step.width}
        min={1}
        max={400}
        step={1}
        unit="px"
        curve={2}
        fallback={edgeBand.fields.width.fallback!}
        onPreview={(v) => preview(width(v))}
        onSettle={(v) => act('Change band', width(v))}
      />
      <StepSlider
        step={step}
        home={home}
        field="offset"
        label="Offset"
        min={-100}
        max={100}
        digits={1}
        by={0.5}
        unit="px"
        curve={2}
      />
      <p className="text-xs leading-relaxed text-[var(--muted)]">
        {counted(step.points.length, 'point')}. Drag a point to move it, its round grip for the band’s width there;
        press on a side to add one, or pull one out of it; double-click one to remove it.
      </p>
      <SampleChoice step={step} home={home} />
    </>
  )
}

export const edgeBandPage: FinderPage<'edgeBand'> = {
  id: 'edgeBand',
  kind: 'edgeBand',
  name: 'Edge band',
  group: 'outline',
  icon: CircleDashed,
  hint: 'Click loosely around a thing; the ring, a double click or Enter closes. The edge is found inside the band, and follows when you change points or band.',
  summary: (step) => `${counted(step.points.length, 'point')} · band ${step.width} px`,
  press: pressCorners({ kind: 'edgeBand' }),
  Handles,
  Panel,
  finish: closeOutline,
  takeBack: takeCornerBack,
}
