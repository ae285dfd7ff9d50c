import { HeldOutline } from '@/ui/canvas/HeldOutline'
import { Highlighter, Trash2 } from 'lucide-react'
import { turnsOf } from '@/core/steps/marks'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { Choice } from '@/ui/primitives/Choice'
import { IconButton } from '@/ui/primitives/Button'
import { abandon, act, get, preview, set, settle, useBench } from '@/ui/store/bench'
import { type MarkMode } from '@/ui/store/rooms/tool'
import { type Drag, type FinderPage, type HandlesProps, type PanelProps, type Press } from '../finder'
import { beginStep } from '../putStep'
import { ChosenSolver } from '../marking/ChosenSolver'
import { MarkerSize } from '../marking/MarkerTool'
import { SampleChoice } from '../marking/SampleChoice'
import { drawMark, type MarkKind, MarkRing, MarkStrokes } from '../marking/strokes'

type MarksStep = StepOfKind<'marks'>
const KINDS: readonly MarkKind[] = ['keep', 'drop', 'unsure']
const WORDS: Record<MarkMode, string> = {
  outline: 'Outline',
  keep: 'Mark keep',
  drop: 'Mark drop',
  unsure: 'Mark unsure',
}
const LEAST_POINTS = 3

/** A drag is a stroke of the chosen kind, or the rough outline; with Alt a stroke drops. Shift begins a further step. */
function press(at: Press, open: MarksStep | undefined): Drag {
  const { size, mode } = get().marker,
    kind: MarkMode = at.keys && at.op === 'subtract' && open ? 'drop' : mode
  const into = open && (kind === 'drop' || !at.further) ? open : undefined,
    id = into?.id ?? crypto.randomUUID()
  set({ openStep: id })
  // What is set after something was decided corrects it.
  const last = into && turnsOf(into).at(-1),
    turn = last === undefined || kind === 'unsure' ? {} : { turn: last + 1 }
  const values = (points: readonly (readonly [number, number])[]) =>
    kind === 'outline'
      ? points.length >= LEAST_POINTS
        ? { outline: points }
        : {}
      : { [kind]: [...(into?.[kind] ?? []), { points, size, ...turn }] }
  return drawMark(
    at,
    (points) =>
      preview(into ? changeStep(at.home, id, values(points)) : beginStep(at, { kind: 'marks', id, ...values(points) })),
    () => {
      if (!settle(WORDS[kind])) abandon()
    },
  )
}

function Handles({ step, toScreen, pointer }: HandlesProps<MarksStep>) {
  const mode = useBench((state) => state.marker.mode)
  const outline = 'outline' in step ? step.outline?.map(([x, y]) => toScreen(x, y).join(',')).join(' ') : undefined
  return (
    <>
      {outline && <HeldOutline points={outline} dashed />}
      {'keep' in step && (
        <MarkStrokes
          strokes={KINDS.flatMap((kind) => step[kind].map((stroke) => ({ ...stroke, mode: kind })))}
          toScreen={toScreen}
        />
      )}
      {mode !== 'outline' && <MarkRing toScreen={toScreen} pointer={pointer} mode={mode} />}
    </>
  )
}

function Panel({ step, home }: PanelProps<MarksStep>) {
  return (
    <>
      {KINDS.map((kind) => (
        <div key={kind} className="flex items-center justify-between text-[13px]">
          <span>
            {step[kind].length} {kind}
          </span>
          <IconButton
            label={`Remove the last ${kind} mark`}
            why={step[kind].length ? undefined : 'There is none.'}
            onClick={() => act(`Remove ${kind} mark`, changeStep(home, step.id!, { [kind]: step[kind].slice(0, -1) }))}
          >
            <Trash2 size={15} />
          </IconButton>
        </div>
      ))}
      {step.unsure.length > 0 && <ChosenSolver step={step} home={home} />}
      <SampleChoice step={step} home={home} />
    </>
  )
}

/** What the next stroke marks. */
function Tool() {
  const marker = useBench((state) => state.marker)
  return (
    <div className="mb-3 space-y-1.5 px-1">
      <Choice
        small
        label="What the next stroke marks"
        value={marker.mode}
        options={[
          ['outline', 'outline'],
          ['keep', 'keep'],
          ['drop', 'drop'],
          ['unsure', 'unsure'],
        ]}
        onChange={(mode) => set({ marker: { ...marker, mode } })}
      />
      <MarkerSize />
    </div>
  )
}

export const marksPage: FinderPage<'marks'> = {
  id: 'marks',
  kind: 'marks',
  name: 'Marks',
  group: 'object',
  icon: Highlighter,
  hint: 'Mark what to keep. Further marks correct: keep only adds, drop (Alt) only takes away. Unsure is for hair; an outline drops all outside it.',
  summary: (step) =>
    [
      ...KINDS.flatMap((kind) => (step[kind].length ? [`${step[kind].length} ${kind}`] : [])),
      ...(step.outline ? ['outline'] : []),
    ].join(' · '),
  press,
  Handles,
  Panel,
  Tool,
  followsPointer: true,
  middle: ({ width, height }) => ({ keep: [{ points: [[width / 2, height / 2]], size: get().marker.size }] }),
}
