import { useRef } from 'react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { get, preview, useBench } from '@/ui/store/bench'
import { Grip, isFree } from '@/ui/canvas/Grip'
import { type Snapper, snapper } from '@/ui/canvas/snapping'
import { type HandlesProps } from '../finder'
import { BOX_PLACES, onPixels, placeOn, stretched } from '@/ui/canvas/box'
import { boxLines } from './boxLines'
import { type BoxStep } from './pressBox'

const TURN_PX = 26
/** The corner radius's grip lies this far below the upper side, clear of the corner's own. */
const ASIDE_PX = 14

/** Corners and sides stretch, the round grip turns; a rectangle's diamond sets its corner radius. */
export function BoxHandles({ step, home, toScreen, fromScreen }: HandlesProps<BoxStep>) {
  const show = (values: object) => preview(changeStep(home, step.id!, values))
  const lines = useBench((state) => state.boxLines),
    flip = useBench((state) => state.boxLinesFlip),
    grid = useBench((state) => state.boxGrid)
  const snap = useRef<Snapper | null>(null)
  const corners = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ].map(([u, v]) => toScreen(...placeOn(step, u, v)))
  const top = toScreen(...placeOn(step, 0.5, 0)),
    centre = toScreen(...placeOn(step, 0.5, 0.5))
  const up = Math.hypot(top[0] - centre[0], top[1] - centre[1]) || 1
  const turn = [top[0] + ((top[0] - centre[0]) / up) * TURN_PX, top[1] + ((top[1] - centre[1]) / up) * TURN_PX]
  return (
    <g>
      <polygon
        points={corners.map((c) => c.join(',')).join(' ')}
        fill="none"
        stroke="#fff"
        strokeWidth={3}
        opacity={0.8}
        pointerEvents="none"
      />
      <polygon
        points={corners.map((c) => c.join(',')).join(' ')}
        fill="none"
        stroke="#1b1b1b"
        strokeWidth={1}
        pointerEvents="none"
      />
      <line x1={top[0]} y1={top[1]} x2={turn[0]} y2={turn[1]} stroke="#1b1b1b" pointerEvents="none" />
      {step.width > 0 &&
        step.height > 0 &&
        boxLines(lines, step.width / step.height, flip, grid).map((line, i) => {
          const points = line.map(([u, v]) => toScreen(...placeOn(step, u, v)).join(',')).join(' ')
          return (
            <g key={i} fill="none" pointerEvents="none">
              <polyline points={points} stroke="#fff" strokeWidth={2.2} opacity={0.55} />
              <polyline points={points} stroke="#1b1b1b" strokeWidth={0.8} opacity={0.8} />
            </g>
          )
        })}
      {BOX_PLACES.map(([u, v, name]) => {
        const [x, y] = toScreen(...placeOn(step, u, v))
        return (
          <Grip
            key={name}
            label={`Stretch ${name}`}
            cursor={v === 0.5 ? 'ew-resize' : u === 0.5 ? 'ns-resize' : u === v ? 'nwse-resize' : 'nesw-resize'}
            x={x}
            y={y}
            shape="square"
            drag={(px, py, event) => {
              const [ax, ay] = toScreen(0, 0),
                [bx, by] = toScreen(1, 0)
              snap.current ??= snapper(home, Math.hypot(bx - ax, by - ay), step.id)
              const point = fromScreen(px, py),
                turned = step.rotation % 90 !== 0
              const to = turned ? point : snapSide(snap.current, point, u, v, isFree(event))
              show(
                onPixels(
                  stretched(
                    step,
                    u,
                    v,
                    to,
                    event.shiftKey || get().boxEqual,
                    event.altKey || get().boxFromMiddle,
                    get().proportions,
                  ),
                  step.rotation,
                ),
              )
            }}
            end={() => {
              snap.current?.end()
              snap.current = null
            }}
          />
        )
      })}
      <Grip
        label="Rotate"
        cursor="grab"
        x={turn[0]}
        y={turn[1]}
        shape="round"
        drag={(px, py, event) => {
          const degrees = (Math.atan2(py - centre[1], px - centre[0]) * 180) / Math.PI + 90
          show({ rotation: event.shiftKey ? Math.round(degrees / 15) * 15 : Math.round(degrees * 10) / 10 })
        }}
      />
      {step.kind === 'rectangle' && step.width > 0 && step.height > 0 && (
        <CornerGrip step={step} toScreen={toScreen} fromScreen={fromScreen} show={show} />
      )}
    </g>
  )
}

/** Only the side that moves clings. */
function snapSide(snap: Snapper, [x, y]: [number, number], u: number, v: number, free: boolean): [number, number] {
  const [dx, dy] = snap.offset(u === 0.5 ? [] : [x], v === 0.5 ? [] : [y], free)
  return [x + dx, y + dy]
}

function CornerGrip({
  step,
  toScreen,
  fromScreen,
  show,
}: Pick<HandlesProps<StepOfKind<'rectangle'>>, 'step' | 'toScreen' | 'fromScreen'> & {
  show: (values: object) => void
}) {
  const most = Math.min(step.width, step.height) / 2
  const [x, y] = toScreen(...placeOn(step, 1 - Math.min(step.cornerRadius, most) / step.width, 0))
  return (
    <Grip
      label="Corner radius"
      cursor="ew-resize"
      x={x}
      y={y + ASIDE_PX}
      shape="diamond"
      drag={(px, py) => {
        const [cx, cy] = placeOn(step, 1, 0),
          [sx, sy] = fromScreen(px, py),
          angle = (step.rotation * Math.PI) / 180
        show({
          cornerRadius: Math.round(
            Math.min(most, Math.max(0, (cx - sx) * Math.cos(angle) + (cy - sy) * Math.sin(angle))),
          ),
        })
      }}
    />
  )
}
