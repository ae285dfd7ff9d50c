import { Grip } from './Grip'

type Point = readonly [number, number]
interface Props {
  from: Point
  to: Point
  /** Of the stops, 0-1. */ places: readonly number[]
  colours: readonly string[]
  toScreen: (x: number, y: number) => [number, number]
  fromScreen: (x: number, y: number) => [number, number]
  moveEnd: (end: 'from' | 'to', point: Point) => void
  moveStop: (index: number, place: number) => void
}

/** Stops lie this far (CSS px) beside the line, clear of the grips at its ends. */
const ASIDE_PX = 15

/** A gradient's line: its two ends, and its stops beside it. */
export function RampHandles({ from, to, places, colours, toScreen, fromScreen, moveEnd, moveStop }: Props) {
  const a = toScreen(...from),
    b = toScreen(...to),
    dx = b[0] - a[0],
    dy = b[1] - a[1],
    length = Math.hypot(dx, dy) || 1
  const aside: Point = [(-dy / length) * ASIDE_PX, (dx / length) * ASIDE_PX]
  const end = (name: 'from' | 'to', [x, y]: Point, label: string) => (
    <Grip
      label={label}
      cursor="move"
      shape="round"
      x={x}
      y={y}
      fill={name === 'from' ? '#1b1b1b' : '#fff'}
      drag={(px, py, event) => {
        const [fx, fy] = name === 'from' ? b : a
        const [qx, qy] = event.shiftKey ? (Math.abs(px - fx) > Math.abs(py - fy) ? [px, fy] : [fx, py]) : [px, py]
        moveEnd(name, fromScreen(qx, qy).map(Math.round) as unknown as Point)
      }}
    />
  )
  return (
    <g>
      <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} stroke="#fff" strokeWidth={3} opacity={0.8} pointerEvents="none" />
      <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} stroke="#1b1b1b" strokeWidth={1} pointerEvents="none" />
      {places.map((place, i) => (
        <Grip
          key={i}
          label={`Stop ${i + 1}`}
          cursor="move"
          shape="diamond"
          fill={colours[i]}
          x={a[0] + dx * place + aside[0]}
          y={a[1] + dy * place + aside[1]}
          drag={(px, py) =>
            moveStop(
              i,
              Math.round(1000 * Math.min(1, Math.max(0, ((px - a[0]) * dx + (py - a[1]) * dy) / (length * length)))) /
                1000,
            )
          }
        />
      ))}
      {end('from', a, 'Start of the gradient')}
      {end('to', b, 'End of the gradient')}
    </g>
  )
}
