import { useRef } from 'react'
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { get, preview } from '@/ui/store/bench'
import { Grip, isFree } from '@/ui/canvas/Grip'
import { HeldOutline } from '@/ui/canvas/HeldOutline'
import { TurnGrip } from '@/ui/canvas/TurnGrip'
import { type Snapper, snapper } from '@/ui/canvas/snapping'
import { type HandlesProps } from '../finder'
import { BOX_PLACES, onPixels, placeOn, pullCursor, stretched } from '@/ui/canvas/box'
import { BoxLinesShown } from './BoxLinesShown'
import { type BoxStep } from './pressBox'

/** The corner radius's grip lies this far below the upper side, clear of the corner's own. */
const ASIDE_PX = 14

/** Corners and sides stretch, the round grip turns; a rectangle's diamond sets its corner radius. */
export function BoxHandles({ step, home, toScreen, fromScreen }: HandlesProps<BoxStep>) {
  const show = (values: object) => preview(changeStep(home, step.id!, values))
  const snap = useRef<Snapper | null>(null)
  const at = (u: number, v: number) => toScreen(...placeOn(step, u, v)),
    corners = [at(0, 0), at(1, 0), at(1, 1), at(0, 1)],
    middle = at(0.5, 0.5)
  return (
    <g>
      <HeldOutline points={corners.map((c) => c.join(',')).join(' ')} />
      {step.width > 0 && step.height > 0 && <BoxLinesShown aspect={step.width / step.height} at={at} />}
      {BOX_PLACES.map(([u, v, name]) => {
        const [x, y] = at(u, v)
        return (
          <Grip
            key={name}
            label={`Stretch ${name}`}
            cursor={pullCursor(middle, [x, y])}
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
      <TurnGrip label="Rotate" middle={middle} top={at(0.5, 0)} turn={(rotation) => show({ rotation })} />
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
