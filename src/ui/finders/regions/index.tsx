import { Puzzle, Undo2 } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { regions } from '@/core/steps/regions'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { IconButton } from '@/ui/primitives/Button'
import { Slider } from '@/ui/primitives/Slider'
import { act, actInBurst, get, preview, set, shownSteps, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { type Drag, type FinderPage, type HandlesProps, type PanelProps, type Press } from '../finder'
import { SampleChoice } from '../marking/SampleChoice'
import { goOnWith, putStep } from '../putStep'
import { counted } from '@/ui/primitives/counted'
import { withId } from '@/document/withId'

type RegionsStep = StepOfKind<'regions'>
/** A drag takes a further region this often, CSS px. */
const EVERY_PX = 10
const MOST_POINTS = 400
const WHEEL_STEP = 0.05

/** A click adds the region under the pointer to the open step, a drag all that it crosses. Shift or Alt begin a further step. */
function press(at: Press, open: RegionsStep | undefined): Drag {
  const into = open && !at.further ? open : undefined,
    step = into ? goOnWith(at, into) : putStep(at, 'regions', { detail: get().regionDetail, at: [] }, undefined)
  const points: [number, number][] = into ? into.at.map(([x, y]) => [x, y]) : []
  let last = at.screen
  const take = ([x, y]: readonly [number, number]) => {
    if (points.length < MOST_POINTS) {
      points.push([Math.floor(x) + 0.5, Math.floor(y) + 0.5])
      step.show({ at: [...points] })
    }
  }
  take(at.point)
  return {
    move(point, _modifiers, screen) {
      if (Math.hypot(screen[0] - last[0], screen[1] - last[1]) >= EVERY_PX) {
        last = screen
        take(point)
      }
    },
    end() {
      if (get().live) step.end('Region')
    },
  }
}

/** The region under the pointer, before it is taken. */
function Handles({ step, toScreen, fromScreen, pointer }: HandlesProps<RegionsStep>) {
  const next = useBench((state) => state.regionDetail),
    detail = 'detail' in step ? step.detail : next,
    sample = 'sample' in step ? step.sample : 'all'
  const made = 'scene' in step ? step : undefined
  const [path, setPath] = useState<string | null>(null),
    asking = useRef(false),
    wanted = useRef<readonly [number, number] | null>(null)
  const at = pointer && fromScreen(...(pointer as [number, number])),
    x = at && Math.floor(at[0]),
    y = at && Math.floor(at[1])
  useEffect(() => {
    if (x === null || y === null) {
      setPath(null)
      return
    }
    wanted.current = [x, y]
    const ask = () => {
      const point = wanted.current
      if (asking.current || !point) return
      asking.current = true
      wanted.current = null
      askEngine((engine, request) => engine.region(request, point, detail, sample), made)
        ?.then(setPath, () => {})
        .finally(() => {
          asking.current = false
          ask()
        })
    }
    ask()
  }, [x, y, detail, sample, made])
  const [ox, oy] = toScreen(0, 0),
    [ux, uy] = toScreen(1, 0),
    [vx, vy] = toScreen(0, 1)
  if (!path || !pointer) return null
  return (
    <g transform={`matrix(${ux - ox} ${uy - oy} ${vx - ox} ${vy - oy} ${ox} ${oy})`} pointerEvents="none" data-region>
      {[
        ['#fff', 3.5, 0.85],
        ['#1b1b1b', 1.25, 1],
      ].map(([stroke, width, opacity]) => (
        <path
          key={String(stroke)}
          d={path}
          fill="none"
          stroke={String(stroke)}
          strokeWidth={Number(width)}
          opacity={Number(opacity)}
          vectorEffect="non-scaling-stroke"
          strokeLinejoin="round"
        />
      ))}
    </g>
  )
}

const detailSlider = { min: 0, max: 100, step: 1, unit: '%', fallback: 100 * regions.fields.detail.fallback! } as const

function Panel({ step, home }: PanelProps<RegionsStep>) {
  const edit = (v: number) => changeStep(home, step.id!, { detail: v / 100 })
  return (
    <>
      <Slider
        label="Detail"
        value={step.detail * 100}
        {...detailSlider}
        onPreview={(v) => preview(edit(v))}
        onSettle={(v) => act('Change detail', edit(v))}
      />
      <div className="flex items-center justify-between text-[13px]">
        <span>{counted(step.at.length, 'place')}</span>
        <IconButton
          label="Give the last region back"
          why={step.at.length > 1 ? undefined : 'It is the only one: remove the step instead.'}
          onClick={() => act('Give region back', changeStep(home, step.id!, { at: step.at.slice(0, -1) }))}
        >
          <Undo2 size={15} />
        </IconButton>
      </div>
      <SampleChoice step={step} home={home} />
    </>
  )
}

/** How fine the next regions are. */
function Tool() {
  const detail = useBench((state) => state.regionDetail)
  return (
    <div className="mb-3 px-1">
      <Slider
        label="Detail"
        value={detail * 100}
        {...detailSlider}
        onPreview={(v) => set({ regionDetail: v / 100 })}
        onSettle={(v) => set({ regionDetail: v / 100 })}
      />
    </div>
  )
}

/** Alt and the wheel go coarser or finer: the open step's regions, or the next ones. */
function wheel(turn: number): void {
  const state = get(),
    open = withId(shownSteps(state), state.openStep),
    clamp = (v: number) => Math.round(100 * Math.max(0, Math.min(1, v))) / 100
  if (open?.kind === 'regions') {
    const edit = changeStep(state.home, open.id!, { detail: clamp(open.detail - turn * WHEEL_STEP) })
    actInBurst('Change detail', edit, `detail ${open.id}`)
  } else set({ regionDetail: clamp(state.regionDetail - turn * WHEEL_STEP) })
}

export const regionsPage: FinderPage<'regions'> = {
  id: 'regions',
  kind: 'regions',
  name: 'Regions',
  group: 'object',
  icon: Puzzle,
  hint: 'Click to take the region you see, drag across to take all you cross. Alt and the wheel go coarser or finer. A right click shows what to make of them.',
  summary: (step) => `${counted(step.at.length, 'place')} · detail ${Math.round(step.detail * 100)} %`,
  press,
  Handles,
  Panel,
  Tool,
  wheel,
  followsPointer: true,
  middle: ({ width, height }) => ({ at: [[width / 2, height / 2]], detail: get().regionDetail }),
}
