import { useEffect, useRef, useState } from 'react'
import { type StepOfKind } from '@/core/steps/registry'
import { type Point } from '@/core/vector/fill'
import { changeStep } from '@/document/edits'
import { act, get, preview, useBench } from '@/ui/store/bench'
import { type WireSoFar } from '@/engine/page/protocol'
import { askEngine } from '@/ui/store/rendering'
import { Grip } from '@/ui/canvas/Grip'
import { usePull } from '@/ui/canvas/pull'
import { type HandlesProps } from '../finder'
import { StartRing } from '../outline/StartRing'
import { pin, placed } from './press'

type WireStep = StepOfKind<'liveWire'>
const MOST_GRIPS = 160
/** A piece at least this long (CSS px) that has stayed through so many moves is pinned; the more willingly the fewer. */
const SETTLED_PX = 70,
  FEWEST_MOVES = 5,
  MORE_MOVES = 40

const NONE: WireSoFar = { pinned: [], loose: [] }

/** The wire through its anchors and on to a place, as the engine finds it: one question at a time, the newest next. @param to null for a finished wire, undefined: nothing is asked */
function useWire(step: WireStep, to: Point | null | undefined, scale: number): WireSoFar {
  const moving = useBench((state) => state.live !== null)
  const [wire, setWire] = useState<WireSoFar>(NONE)
  const asking = useRef(false),
    wanted = useRef<{ step: WireStep; to: Point | null; scale: number; moving: boolean } | null>(null),
    settled = useRef({ from: '', moves: 0, until: [0, 0] as Point })
  useEffect(() => {
    if (to === undefined || !step.anchors.length) {
      wanted.current = null
      setWire(NONE)
      return
    }
    wanted.current = { step, to, scale, moving }
    const ask = () => {
      const now = wanted.current
      if (asking.current || !now) return
      asking.current = true
      wanted.current = null
      askEngine((engine, request) => engine.wire(request, now.step, now.to, now.moving), now.step)
        ?.then(
          (found) => {
            if (found) {
              setWire(found)
              if (now.to) pinSettled(found.loose, now.step.anchors.at(-1)!, now.scale, settled.current)
            }
          },
          () => {},
        )
        .finally(() => {
          asking.current = false
          ask()
        })
    }
    ask()
    // eslint-disable-next-line react-hooks/exhaustive-deps -- asked anew when the pointer or the wire changed
  }, [to === null, to?.[0], to?.[1], step, moving])
  return wire
}

/** Pins the wire where it has stayed the same over many moves. */
function pinSettled(
  wire: readonly Point[],
  from: Point,
  scale: number,
  seen: { from: string; moves: number; until: Point },
): void {
  const { cooling } = get().wire,
    at = wire.findIndex((p) => Math.hypot(p[0] - from[0], p[1] - from[1]) * scale >= SETTLED_PX)
  if (cooling <= 0 || at < 0 || at > wire.length - 4) {
    seen.moves = 0
    return
  }
  const here = wire[at],
    same = seen.from === String(from) && Math.hypot(here[0] - seen.until[0], here[1] - seen.until[1]) * scale < 2
  seen.moves = same ? seen.moves + 1 : 0
  seen.from = String(from)
  seen.until = here
  if (seen.moves >= FEWEST_MOVES + MORE_MOVES * (1 - cooling)) {
    seen.moves = 0
    pin([here], 'Pin by itself')
  }
}

/** The anchors, and while drawing the wire to the pointer and the ring at the start; a finished wire is pinned further where it is pressed. */
export function Handles({ step, home, toScreen, fromScreen, pointer }: HandlesProps<WireStep>) {
  const drawing = useBench((state) => state.drawing === step.id)
  const [ax] = toScreen(0, 0),
    [bx] = toScreen(1, 0),
    scale = Math.abs(bx - ax)
  const held = step.anchors.length <= MOST_GRIPS,
    to = drawing ? (pointer ? fromScreen(...(pointer as [number, number])) : undefined) : held ? null : undefined
  const wire = useWire(step, to, scale),
    pull = usePull<WireStep>()
  const onScreen = (piece: readonly Point[]) => piece.map(([x, y]) => toScreen(x, y).join(',')).join(' '),
    line = [...wire.pinned, wire.loose].map(onScreen).join(' '),
    anchors = step.anchors.map(([x, y]) => toScreen(x, y))
  return (
    <g>
      {drawing && line && (
        <g pointerEvents="none" fill="none" strokeLinejoin="round">
          <polyline points={line} stroke="#fff" strokeWidth={3.5} opacity={0.85} />
          <polyline points={line} stroke="#1b1b1b" strokeWidth={1.25} data-wire />
        </g>
      )}
      {!drawing &&
        wire.pinned.map((piece, k) => (
          <polyline
            key={`piece ${k}`}
            points={onScreen(piece)}
            fill="none"
            stroke="transparent"
            strokeWidth={9}
            style={{ pointerEvents: 'stroke', cursor: 'copy' }}
            aria-label="Pin the wire here"
            {...pull('Pin', step, (was, _, at) =>
              changeStep(home, step.id!, { anchors: was.anchors.toSpliced(k + 1, 0, placed(fromScreen(...at))) }),
            )}
          />
        ))}
      {drawing
        ? anchors.map(([x, y], i) => (
            <rect key={i} x={x - 3} y={y - 3} width={6} height={6} fill="#fff" stroke="#1b1b1b" pointerEvents="none" />
          ))
        : held &&
          anchors.map(([x, y], i) => (
            <g
              key={i}
              onDoubleClick={(event) => {
                event.stopPropagation()
                if (anchors.length > 3)
                  act('Unpin', changeStep(home, step.id!, { anchors: step.anchors.toSpliced(i, 1) }))
              }}
            >
              <Grip
                label={`Anchor ${i + 1}`}
                cursor="move"
                shape="square"
                x={x}
                y={y}
                drag={(px, py) =>
                  preview(changeStep(home, step.id!, { anchors: step.anchors.with(i, fromScreen(px, py)) }))
                }
              />
            </g>
          ))}
      {drawing && anchors.length > 0 && <StartRing at={anchors[0]} />}
    </g>
  )
}
