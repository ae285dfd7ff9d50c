import { useEffect, useRef, useState } from 'react'
import { type StepOfKind } from '@/core/select/registry'
import { type Point } from '@/core/vector/fill'
import { changeStep } from '@/document/edits'
import { act, get, preview, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { Grip } from '@/ui/workbench/canvas/Grip'
import { type HandlesProps } from '../finder'
import { StartRing } from '../outline/StartRing'
import { pin } from './press'

type WireStep = StepOfKind<'liveWire'>
const MOST_GRIPS = 160
/** A piece at least this long (CSS px) that has stayed through so many moves is pinned; the more willingly the fewer. */
const SETTLED_PX = 70, FEWEST_MOVES = 5, MORE_MOVES = 40

/** The wire from the last anchor to the pointer, as the engine finds it: one question at a time, the newest next. */
function useWire(step: WireStep, drawing: boolean, to: Point | null, scale: number): readonly Point[] {
  const [path, setPath] = useState<readonly Point[]>([]), asking = useRef(false), next = useRef<Point | null>(null), settled = useRef({ from: '', moves: 0, until: [0, 0] as Point })
  const from = step.anchors.at(-1)
  useEffect(() => {
    if (!drawing || !to || !from) { setPath([]); return }
    next.current = to
    const ask = () => {
      const goal = next.current
      if (asking.current || !goal) return
      asking.current = true
      next.current = null
      askEngine((engine, request) => engine.wire(request, from, goal, step, step.sample))?.then((found) => { if (found) { setPath(found); pinSettled(found) } }, () => {}).finally(() => { asking.current = false; ask() })
    }
    const pinSettled = (found: readonly Point[]) => {
      const { pins } = get().wire, at = found.findIndex((p) => Math.hypot(p[0] - from[0], p[1] - from[1]) * scale >= SETTLED_PX)
      if (pins <= 0 || at < 0 || at > found.length - 4) { settled.current = { from: '', moves: 0, until: [0, 0] }; return }
      const here = found[at], same = settled.current.from === String(from) && Math.hypot(here[0] - settled.current.until[0], here[1] - settled.current.until[1]) * scale < 2
      settled.current = { from: String(from), moves: same ? settled.current.moves + 1 : 0, until: here }
      if (settled.current.moves >= FEWEST_MOVES + MORE_MOVES * (1 - pins)) { settled.current.moves = 0; pin([here], 'Pin by itself') }
    }
    ask()
    // eslint-disable-next-line react-hooks/exhaustive-deps -- asked anew when the pointer or the last anchor moved
  }, [drawing, to?.[0], to?.[1], from?.[0], from?.[1], step.width, step.contrast])
  return path
}

/** The anchors, and while drawing the wire to the pointer and the ring at the start. */
export function Handles({ step, home, toScreen, fromScreen, pointer }: HandlesProps<WireStep>) {
  const drawing = useBench((state) => state.drawing === step.id)
  const [ax] = toScreen(0, 0), [bx] = toScreen(1, 0), scale = Math.abs(bx - ax)
  const wire = useWire(step, drawing, pointer && fromScreen(...(pointer as [number, number])), scale)
  const line = wire.map(([x, y]) => toScreen(x, y).join(',')).join(' '), anchors = step.anchors.map(([x, y]) => toScreen(x, y))
  return (
    <g>
      {drawing && line && <g pointerEvents="none" fill="none" strokeLinejoin="round"><polyline points={line} stroke="#fff" strokeWidth={3.5} opacity={0.85} /><polyline points={line} stroke="#1b1b1b" strokeWidth={1.25} data-wire /></g>}
      {drawing
        ? anchors.map(([x, y], i) => <rect key={i} x={x - 3} y={y - 3} width={6} height={6} fill="#fff" stroke="#1b1b1b" pointerEvents="none" />)
        : anchors.length <= MOST_GRIPS && anchors.map(([x, y], i) => (
          <g key={i} onDoubleClick={(event) => { event.stopPropagation(); if (anchors.length > 3) act('Unpin', changeStep(home, step.id!, { anchors: step.anchors.toSpliced(i, 1) })) }}>
            <Grip label={`Anchor ${i + 1}`} cursor="move" shape="square" x={x} y={y} drag={(px, py) => preview(changeStep(home, step.id!, { anchors: step.anchors.with(i, fromScreen(px, py)) }))} />
          </g>
        ))}
      {drawing && anchors.length > 0 && <StartRing at={anchors[0]} />}
    </g>
  )
}
