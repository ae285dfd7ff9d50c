'use client'
/** The edge seen across, from inside to outside: grey as the matte was solved, black as it becomes. Its middle moves the edge, its ends make it softer or crisper. */
import { type PointerEvent as ReactPointerEvent, useEffect, useRef, useState } from 'react'
import { crossingsOf, type EdgeShape, INNER, OUTER, shapedProfile, shapeOfWidth } from '@/core/edge/profileShape'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type RecipeHome } from '@/document/records'
import { NumberField } from '@/ui/primitives/NumberField'
import { useHeld } from '@/ui/primitives/useHeld'
import { abandon, act, actInBurst, preview, settle, shownSteps, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { useSame } from '@/ui/primitives/useSame'

type EdgeStep = StepOfKind<'edge'>

/** Px that are measured on either side, and at least shown. */
const REACH = 40,
  LEAST_SHOWN = 10
const WIDTH = 270,
  HEIGHT = 108,
  PAD = 9
/** Before anything is measured: a hard edge, anti-aliased. */
const HARD = Float32Array.from({ length: 2 * REACH + 1 }, (_, i) => (i < REACH ? 1 : i === REACH ? 0.5 : 0))
const TENTH = (v: number): number => Math.round(v * 10) / 10
const MOST_MOVED = 50

export function AcrossEdge({ step, home }: { step: EdgeStep; home: RecipeHome }) {
  const measured = useMeasured(step) ?? HARD
  // What comes out is the other side where a later step turns it round.
  const other = useBench((state) => {
    const steps = shownSteps(state),
      later = steps.slice(steps.findIndex((each) => each.id === step.id) + 1)
    return later.filter((each) => each.kind === 'invert' && !each.hidden).length % 2 === 1
  })
  const shape: EdgeShape = step,
    profile = shapedProfile(measured, shape),
    { inner, middle, outer } = crossingsOf(profile)
  // What is shown does not grow under the hand.
  const [kept, keep] = useState<number | null>(null)
  const held = useHeld<EdgeShape>(abandon)
  const shown = kept ?? Math.min(REACH, Math.max(LEAST_SHOWN, 1.6 * Math.max(-inner, outer)))
  const svg = useRef<SVGSVGElement>(null)
  const x = (px: number): number => PAD + ((px + shown) / (2 * shown)) * (WIDTH - 2 * PAD),
    y = (coverage: number): number => PAD + (1 - coverage) * (HEIGHT - 2 * PAD)
  const line = (of: ArrayLike<number>): string =>
    Array.from({ length: 2 * REACH + 1 }, (_, i) => [i - REACH, of[i]] as const)
      .filter(([px]) => Math.abs(px) <= shown + 1)
      .map(([px, coverage]) => `${x(px).toFixed(1)},${y(coverage).toFixed(1)}`)
      .join(' ')
  const edit = (values: Partial<EdgeShape>) => changeStep(home, step.id!, values)
  const grip = (name: string, at: number, level: number, values: (px: number) => Partial<EdgeShape>) => {
    const move = (px: number) => preview(edit(values(px)))
    const down = (event: ReactPointerEvent<SVGCircleElement>) => {
      if (event.button !== 0) return
      event.currentTarget.setPointerCapture(event.pointerId)
      held.take(shape)
      keep(shown)
    }
    const holds = (event: ReactPointerEvent) =>
      !held.givenBack && event.currentTarget.hasPointerCapture(event.pointerId)
    const place = (event: ReactPointerEvent): number => {
      const box = svg.current!.getBoundingClientRect()
      return ((((event.clientX - box.left) / box.width) * WIDTH - PAD) / (WIDTH - 2 * PAD)) * 2 * shown - shown
    }
    return (
      <circle
        key={name}
        cx={x(Math.max(-shown, Math.min(shown, at)))}
        cy={y(level)}
        r={6.5}
        role="slider"
        tabIndex={0}
        aria-label={name}
        aria-valuenow={TENTH(at)}
        aria-valuetext={`${at.toFixed(1)} px`}
        aria-valuemin={-REACH}
        aria-valuemax={REACH}
        data-across={name}
        className="cursor-ew-resize touch-none"
        fill={level === 0.5 ? 'var(--accent)' : 'var(--panel)'}
        stroke={level === 0.5 ? 'var(--panel)' : 'var(--ink)'}
        strokeWidth={1.5}
        onPointerDown={down}
        onPointerMove={(event) => {
          if (holds(event)) move(place(event))
        }}
        onPointerUp={(event) => {
          if (holds(event)) settle(name)
        }}
        onPointerCancel={() => held.giveBack()}
        onLostPointerCapture={() => {
          held.letGo()
          keep(null)
        }}
        onKeyDown={(event) => {
          const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key]
          if (!by) return
          event.preventDefault()
          event.stopPropagation()
          actInBurst(name, edit(values(at + by * (event.shiftKey ? 5 : 0.5))), `${name} ${step.id}`)
        }}
      />
    )
  }
  const width = (px: number): Partial<EdgeShape> => shapeOfWidth(measured, Math.max(0.2, 2 * Math.abs(px - middle)))
  const field = (
    label: string,
    value: number,
    min: number,
    max: number,
    unit: string,
    values: (v: number) => object,
  ) => (
    <label className="min-w-0 flex-1 text-xs text-[var(--muted)]">
      {label}
      <NumberField
        label={label}
        value={value}
        min={min}
        max={max}
        unit={unit}
        digits={unit === '%' ? 0 : 1}
        className="w-full"
        onSettle={(v) => act(`Edge ${label.toLowerCase()}`, changeStep(home, step.id!, values(v)))}
      />
    </label>
  )
  return (
    <section aria-label="Across the edge">
      <div className="mb-1 flex items-baseline justify-between">
        <h3 className="text-[13px]">Across the edge</h3>
        <span className="text-xs text-[var(--muted)]">± {shown.toFixed(0)} px; drag the three points</span>
      </div>
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full rounded-lg border border-[var(--line)] bg-[var(--field)]"
      >
        <rect
          x={other ? x(middle) : 0}
          y="0"
          width={other ? WIDTH - x(middle) : x(middle)}
          height={HEIGHT}
          fill="var(--keep)"
          fillOpacity="0.08"
        />
        <path d={`M${x(middle)} 0V${HEIGHT}`} stroke="var(--line-strong)" strokeDasharray="3 3" />
        <polyline
          points={line(measured)}
          fill="none"
          stroke="var(--line-strong)"
          strokeWidth="5"
          strokeLinejoin="round"
        />
        <polyline points={line(profile)} fill="none" stroke="var(--ink)" strokeWidth="2" strokeLinejoin="round" />
        <g fontSize="11" fill="var(--muted)">
          <text x="6" y={HEIGHT - 6}>
            {other ? 'outside' : 'inside'}
          </text>
          <text x={WIDTH - 6} y="15" textAnchor="end">
            {other ? 'inside' : 'outside'}
          </text>
        </g>
        {grip('Inner end of the edge', inner, INNER, width)}
        {grip('Outer end of the edge', outer, OUTER, width)}
        {grip('Middle of the edge', middle, 0.5, (px) => ({
          offset: TENTH(Math.max(-MOST_MOVED, Math.min(MOST_MOVED, step.offset + px - middle))),
        }))}
      </svg>
      <div className="mt-1.5 flex gap-2">
        {field('Moved', step.offset, -MOST_MOVED, MOST_MOVED, 'px', (offset) => ({ offset }))}
        {field('Softer', step.feather, 0, 100, 'px', (feather) => ({ feather }))}
        {field('Crisper', step.crispness * 100, 0, 100, '%', (v) => ({ crispness: v / 100 }))}
      </div>
    </section>
  )
}

/** Mean coverage across the edge as the step solves it, before it is softened, crisped or moved; looked at again once things rest. */
function useMeasured(step: EdgeStep): Float32Array | null {
  const [profile, setProfile] = useState<Float32Array | null>(null)
  const steps = useBench(shownSteps),
    result = useBench((state) => state.result),
    live = useBench((state) => state.live !== null)
  const solved = steps
    .slice(0, steps.findIndex((each) => each.id === step.id) + 1)
    .map((each) => (each.id === step.id ? { ...step, feather: 0, crispness: 0, offset: 0 } : each))
  const rest = useRef(solved)
  if (!live) rest.current = solved
  const asked = useSame(rest.current),
    ready = result !== null
  useEffect(() => {
    if (!ready) return
    let current = true
    askEngine((engine, request) => engine.acrossEdge({ ...request, steps: asked }, REACH))?.then(
      (made) => {
        if (current && made) setProfile(made)
      },
      () => {},
    )
    return () => {
      current = false
    }
  }, [asked, ready])
  return profile
}
