import { BoxSelect, Highlighter } from 'lucide-react'
import { parseStep } from '@/core/formats/recipe'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep, exchangeStep } from '@/document/edits'
import { Button, Tip } from '@/ui/primitives/Button'
import { Choice, Switch } from '@/ui/primitives/Choice'
import { abandon, act, get, preview, set, useBench } from '@/ui/store/bench'
import { HeldOutline } from '@/ui/canvas/HeldOutline'
import { Grip } from '@/ui/canvas/Grip'
import { type Drag, type FinderPage, type HandlesProps, type PanelProps, type Press } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { type Point, rounded, simplify, steadied } from '../outline/simplify'
import { putStep } from '../putStep'

type RoughStep = StepOfKind<'roughBox'>
type BoxSides = NonNullable<RoughStep['box']>
/** Shorter than this (CSS px) is a click, not a box; a loop is kept to this. */
const LEAST_PX = 6,
  TOLERANCE_PX = 0.8
const LEAST_POINTS = 3

const between = ([ax, ay]: Point, [bx, by]: Point): BoxSides => [
  Math.round(Math.min(ax, bx)),
  Math.round(Math.min(ay, by)),
  Math.round(Math.max(ax, bx)),
  Math.round(Math.max(ay, by)),
]

/** Drags a box or a loop; what is in it is looked for when it is let go. */
function press(at: Press, open: RoughStep | undefined): Drag {
  const loop = get().roughLoop,
    analyse = open?.analyse ?? true,
    step = putStep(at, 'roughBox', {}, open),
    drawn: Point[] = [at.point]
  let values: object | null = null
  return {
    move(point, _modifiers, screen) {
      drawn.push(point)
      if (Math.hypot(screen[0] - at.screen[0], screen[1] - at.screen[1]) < LEAST_PX && !values) return
      const points = loop ? rounded(simplify(steadied(drawn), TOLERANCE_PX / at.scale)) : []
      values = loop
        ? points.length >= LEAST_POINTS
          ? { outline: points, box: undefined }
          : values
        : { box: between(at.point, point), outline: undefined }
      if (values) step.show({ ...values, analyse: false })
    },
    end() {
      if (values) {
        step.show({ ...values, analyse })
        step.end('Rough box')
      } else if (get().live) abandon()
    },
  }
}

const cornersOf = ({ box, outline }: Pick<RoughStep, 'box' | 'outline'>): readonly Point[] =>
  outline ??
  (box
    ? [
        [box[0], box[1]],
        [box[2], box[1]],
        [box[2], box[3]],
        [box[0], box[3]],
      ]
    : [])

/** Goes on with marks within the same outline: each corrects what is there. */
function correct(
  { box, outline, analyse: _, smoothEdge: __, ...step }: RoughStep,
  home: PanelProps<RoughStep>['home'],
) {
  const id = crypto.randomUUID()
  act(
    'Correct with marks',
    exchangeStep(home, step.id!, parseStep({ ...step, id, kind: 'marks', outline: cornersOf({ box, outline }) })),
  )
  set({ finder: 'marks', openStep: id, drawing: null, marker: { ...get().marker, mode: 'keep' } })
}

function Handles({ step, home, toScreen, fromScreen }: HandlesProps<RoughStep>) {
  const corners = cornersOf(step)
  const line = corners.map(([x, y]) => toScreen(x, y).join(',')).join(' '),
    box = step.box
  // While a corner is dragged the box shows as it is; what is in it is looked for afterwards.
  const move = (i: number, x: number, y: number) => {
    const [px, py] = fromScreen(x, y).map(Math.round)
    preview(changeStep(home, step.id!, { box: box!.with(i === 0 || i === 3 ? 0 : 2, px).with(i < 2 ? 1 : 3, py) }))
  }
  return (
    <g>
      <HeldOutline points={line} dashed />
      {box &&
        corners.map(([x, y], i) => {
          const [sx, sy] = toScreen(x, y)
          return (
            <Grip
              key={i}
              label={`Corner ${i + 1}`}
              cursor={i % 2 ? 'nesw-resize' : 'nwse-resize'}
              shape="square"
              x={sx}
              y={sy}
              drag={(px, py) => move(i, px, py)}
            />
          )
        })}
    </g>
  )
}

function Panel({ step, home }: PanelProps<RoughStep>) {
  const change = (label: string, values: object) => act(label, changeStep(home, step.id!, values))
  return (
    <>
      <Switch
        label="Find the thing inside"
        checked={step.analyse}
        onChange={(analyse) => change(analyse ? 'Find the thing inside' : 'Take the outline as drawn', { analyse })}
      />
      {step.analyse && (
        <Switch
          label="Smooth edge"
          checked={step.smoothEdge}
          onChange={(smoothEdge) => change('Smooth edge', { smoothEdge })}
        />
      )}
      <SampleChoice step={step} home={home} />
      {step.analyse && cornersOf(step).length > 0 && (
        <Tip text="Mark what is missing, or with Alt what is too much">
          <Button className="w-full !min-h-7 !text-xs" onClick={() => correct(step, home)}>
            <Highlighter size={14} /> Correct with marks
          </Button>
        </Tip>
      )}
    </>
  )
}

function Tool() {
  const loop = useBench((state) => state.roughLoop)
  return (
    <div className="mb-3 px-1">
      <Choice
        small
        label="How it is drawn"
        value={loop ? 'loop' : 'box'}
        options={[
          ['box', 'box'],
          ['loop', 'loop'],
        ]}
        onChange={(how) => set({ roughLoop: how === 'loop' })}
      />
    </div>
  )
}

export const roughBoxPage: FinderPage<'roughBox'> = {
  id: 'roughBox',
  kind: 'roughBox',
  name: 'Rough box',
  group: 'object',
  icon: BoxSelect,
  hint: 'Drag a sloppy box, or a loop, around a thing, with some space: the thing is found. Shift adds a piece, Alt takes one away, each found inside its own.',
  summary: (step) => (step.analyse ? (step.outline ? 'what is in the loop' : 'what is in the box') : 'as drawn'),
  press,
  Handles,
  Panel,
  Tool,
  middle: ({ width, height }) => ({
    box: [Math.round(width * 0.2), Math.round(height * 0.2), Math.round(width * 0.8), Math.round(height * 0.8)],
  }),
}
