import { Expand } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Switch } from '@/ui/primitives/Choice'
import { abandon, act, get, preview, set, settle } from '@/ui/store/bench'
import { type Drag, type FinderPage, type HandlesProps, type PanelProps, type Press } from '../finder'
import { beginStep } from '../putStep'
import { MarkerSize } from '../marking/MarkerTool'
import { RemoveLastStroke } from '../marking/RemoveLastStroke'
import { SampleChoice } from '../marking/SampleChoice'
import { drawMark, MarkRing, MarkStrokes } from '../marking/strokes'
import { counted } from '@/ui/primitives/counted'

type SpreadStep = StepOfKind<'spread'>

/** A stroke adds to the open step; with Alt it takes away from it. Shift begins a further step. */
function press(at: Press, open: SpreadStep | undefined): Drag {
  const { size } = get().marker,
    drops = at.keys && at.op === 'subtract' && open !== undefined
  const into = open && (drops || !at.further) ? open : undefined,
    id = into?.id ?? crypto.randomUUID()
  set({ openStep: id })
  return drawMark(
    at,
    (points) => {
      const stroke = { points, size, mode: drops ? ('drop' as const) : ('keep' as const) }
      preview(
        into
          ? changeStep(at.home, id, { strokes: [...into.strokes, stroke] })
          : beginStep(at, { kind: 'spread', id, strokes: [stroke] }),
      )
    },
    () => {
      if (!settle(drops ? 'Spread, take away' : 'Spread')) abandon()
    },
  )
}

function Handles({ step, toScreen, pointer }: HandlesProps<SpreadStep>) {
  return (
    <>
      {'strokes' in step && <MarkStrokes strokes={step.strokes} toScreen={toScreen} />}
      <MarkRing toScreen={toScreen} pointer={pointer} mode="keep" />
    </>
  )
}

function Panel({ step, home }: PanelProps<SpreadStep>) {
  return (
    <>
      <div className="flex items-center justify-between">
        <Switch
          label="Smooth edge"
          checked={step.smoothEdge}
          onChange={(smoothEdge) => act('Smooth edge', changeStep(home, step.id!, { smoothEdge }))}
        />
        <RemoveLastStroke step={step} home={home} />
      </div>
      <SampleChoice step={step} home={home} />
    </>
  )
}

export const spreadPage: FinderPage<'spread'> = {
  id: 'spread',
  kind: 'spread',
  name: 'Spread',
  group: 'brush',
  adds: true,
  icon: Expand,
  hint: 'Brush over a part: it grows to the edges of what you touched; with Alt it shrinks. Often the background is easier: say so in the result bar.',
  summary: (step) => counted(step.strokes.length, 'stroke'),
  press,
  Handles,
  Panel,
  Tool: () => (
    <div className="mb-3 px-1">
      <MarkerSize />
    </div>
  ),
  followsPointer: true,
  middle: ({ width, height }) => ({
    strokes: [{ points: [[width / 2, height / 2]], size: get().marker.size, mode: 'keep' }],
  }),
}
