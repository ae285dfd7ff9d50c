import { Grip, type GripKeys } from './Grip'

type Point = readonly [number, number]
const STALK_PX = 28,
  /** With Shift. */ STEP = 15

/** Degrees clockwise from upright, -180 to 180. */
const direction = (middle: Point, x: number, y: number) => (Math.atan2(x - middle[0], middle[1] - y) * 180) / Math.PI
const rounded = (degrees: number, { shiftKey }: GripKeys) =>
  shiftKey ? Math.round(degrees / STEP) * STEP : Math.round(degrees * 10) / 10

interface TurnGripProps {
  label: string
  /** Of the box, px of the screen. */ middle: Point
  /** The middle of its upper side. */ top: Point
  /** @param degrees where its upper side is to point, clockwise from upright @param by how far that is from where it points now */
  turn: (degrees: number, by: number) => void
}

/** The round grip that turns a box, beyond the middle of its upper side. */
export function TurnGrip({ label, middle, top, turn }: TurnGripProps) {
  const up = Math.hypot(top[0] - middle[0], top[1] - middle[1]) || 1,
    [x, y] = [0, 1].map((k) => top[k] + ((top[k] - middle[k]) / up) * STALK_PX)
  return (
    <>
      <line x1={top[0]} y1={top[1]} x2={x} y2={y} stroke="#1b1b1b" pointerEvents="none" />
      <Grip
        label={label}
        cursor="grab"
        shape="round"
        x={x}
        y={y}
        drag={(px, py, keys) => {
          const degrees = rounded(direction(middle, px, py), keys)
          turn(degrees, degrees - direction(middle, top[0], top[1]))
        }}
      />
    </>
  )
}
