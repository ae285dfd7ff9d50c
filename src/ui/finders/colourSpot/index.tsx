import { CircleDot } from 'lucide-react'
import { parseStep } from '@/core/formats/recipe'
import { type Step, type StepOfKind } from '@/core/steps/registry'
import { changeStep, putSteps } from '@/document/edits'
import { Choice } from '@/ui/primitives/Choice'
import { initialTool } from '@/ui/store/rooms/tool'
import { abandon, act, get, preview, set, settle, useBench } from '@/ui/store/bench'
import { Grip } from '@/ui/canvas/Grip'
import { type Drag, type FinderPage, type HandlesProps, type PanelProps, type Press } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { FieldSlider, PERCENT, StepSlider } from '../StepSlider'

type SpotStep = StepOfKind<'colourSpot'>

/** While dragging, a further spot is set each time the pointer is this share of the radius away from the last one. */
const NEXT_SPOT = 0.9
const MOST_SPOTS = 60
const DRAG_PX = 5

/** A click sets a spot, a drag paints many. Alt sets spots that exclude. Each is a step of its own. */
function press(at: Press): Drag {
  const { radius, core, spread } = get().spot
  const keep = at.op !== 'subtract',
    op = at.op === 'intersect' && !at.first ? 'intersect' : 'add'
  const spotAt = ([x, y]: readonly [number, number]): Step =>
    parseStep({
      kind: 'colourSpot',
      id: crypto.randomUUID(),
      at: [Math.floor(x) + 0.5, Math.floor(y) + 0.5],
      radius,
      core,
      spread,
      keep,
      op,
    })
  const spots = [spotAt(at.point)]
  let last = at.point
  const show = () => {
    preview(putSteps(at.home, spots, false))
    set({ openStep: spots.at(-1)!.id! })
  }
  show()
  return {
    move(point, _modifiers, screen) {
      if (Math.hypot(screen[0] - at.screen[0], screen[1] - at.screen[1]) < DRAG_PX || spots.length >= MOST_SPOTS) return
      if (Math.hypot(point[0] - last[0], point[1] - last[1]) < NEXT_SPOT * radius) return
      last = point
      spots.push(spotAt(point))
      show()
    },
    end() {
      if (!settle(spots.length > 1 ? `${spots.length} spots` : keep ? 'Spot' : 'Excluding spot')) abandon()
    },
  }
}

/** Both rings, each with a grip, and the middle to move it by; before there is a spot, the ring that the next one gets. */
function Handles({ step, home, toScreen, fromScreen, pointer }: HandlesProps<SpotStep>) {
  const next = useBench((state) => state.spot)
  const [ax] = toScreen(0, 0),
    [bx] = toScreen(1, 0),
    scale = Math.abs(bx - ax)
  const ring = (x: number, y: number, radius: number, colour: string, dash?: string) =>
    [
      ['#fff', 3],
      [colour, 1.4],
    ].map(([stroke, width]) => (
      <circle
        key={String(stroke)}
        cx={x}
        cy={y}
        r={Math.max(0, radius)}
        fill="none"
        stroke={String(stroke)}
        strokeWidth={width}
        strokeDasharray={dash}
        pointerEvents="none"
      />
    ))
  const hover = pointer && <g opacity={0.7}>{ring(pointer[0], pointer[1], next.radius * scale, '#1b1b1b', '2 3')}</g>
  if (!('at' in step)) return hover || null
  const [x, y] = toScreen(step.at[0], step.at[1]),
    outer = step.radius * scale,
    inner = outer * step.core,
    colour = step.keep ? '#2351c8' : '#b36b00'
  const show = (values: object) => preview(changeStep(home, step.id!, values))
  const distance = (px: number, py: number) =>
    Math.hypot(...(fromScreen(px, py).map((v, k) => v - step.at[k]) as [number, number]))
  return (
    <g>
      {ring(x, y, outer, colour, step.keep ? undefined : '6 3')}
      {ring(x, y, inner, colour, '2 3')}
      <Grip
        label="Move spot"
        cursor="move"
        shape="diamond"
        x={x}
        y={y}
        drag={(px, py) => {
          const [sx, sy] = fromScreen(px, py)
          show({ at: [Math.floor(sx) + 0.5, Math.floor(sy) + 0.5] })
        }}
      />
      <Grip
        label="Outer ring"
        cursor="ew-resize"
        shape="round"
        x={x + outer}
        y={y}
        drag={(px, py) => {
          const radius = Math.max(1, Math.round(distance(px, py)))
          show({ radius })
        }}
        end={() => set({ spot: { ...get().spot, radius: step.radius } })}
      />
      <Grip
        label="Inner ring"
        cursor="ew-resize"
        shape="round"
        small
        x={x - inner}
        y={y}
        drag={(px, py) => show({ core: Math.round(Math.min(1, distance(px, py) / step.radius) * 100) / 100 })}
      />
      {hover}
    </g>
  )
}

/** The usual radius is that of the next spot, before it was ever changed. */
const RADIUS = { min: 1, max: 3000, unit: 'px', curve: 2.5, usual: initialTool.spot.radius } as const

function Panel({ step, home }: PanelProps<SpotStep>) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  return (
    <>
      <Choice
        small
        label="What the spot does"
        value={step.keep ? 'keep' : 'exclude'}
        options={[
          ['keep', 'keeps'],
          ['exclude', 'excludes'],
        ]}
        onChange={(v) => act(v === 'keep' ? 'Spot keeps' : 'Spot excludes', edit({ keep: v === 'keep' }))}
      />
      <StepSlider step={step} home={home} field="radius" label="Radius" {...RADIUS} />
      <StepSlider step={step} home={home} field="core" label="Core" {...PERCENT} />
      <StepSlider step={step} home={home} field="spread" label="Spread" digits={1} by={0.5} curve={1.5} />
      <SampleChoice step={step} home={home} />
    </>
  )
}

/** The next spots. */
function Tool() {
  const spot = useBench((state) => state.spot)
  const of = (field: keyof typeof spot) => {
    const change = (value: number) => set({ spot: { ...spot, [field]: value } })
    return { kind: 'colourSpot', field, value: spot[field], onPreview: change, onSettle: change } as const
  }
  return (
    <div className="mb-3 space-y-1 px-1">
      <FieldSlider {...of('radius')} label="Radius" {...RADIUS} />
      <details className="text-[13px]">
        <summary className="cursor-pointer text-xs text-[var(--muted)]">More: core, spread</summary>
        <FieldSlider {...of('core')} label="Core" {...PERCENT} />
        <FieldSlider {...of('spread')} label="Spread" digits={1} by={0.5} curve={1.5} />
      </details>
    </div>
  )
}

export const colourSpotPage: FinderPage<'colourSpot'> = {
  id: 'colourSpot',
  kind: 'colourSpot',
  name: 'Spot',
  group: 'colour',
  adds: true,
  icon: CircleDot,
  hint: 'Click: finds what resembles the centre within the circle. Drag sets many, Alt excludes.',
  summary: (step) => `${step.keep ? 'keeps' : 'excludes'} · radius ${Math.round(step.radius)}`,
  press,
  Handles,
  Panel,
  Tool,
  middle: ({ width, height }) => ({ at: [Math.floor(width / 2) + 0.5, Math.floor(height / 2) + 0.5], ...get().spot }),
  followsPointer: true,
}
