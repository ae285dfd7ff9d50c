import { Crop } from 'lucide-react'
import { type Affine, apply, compose, inverse } from '@/core/raster/affine'
import { type Project, type Window } from '@/document/records'
import { setWindow, windowCorners, windowToCanvas } from '@/document/window'
import { later } from '@/ui/primitives/later'
import { get, preview, settle, useBench } from '@/ui/store/bench'
import { boxLines } from '@/ui/finders/shape/boxLines'
import { Grip } from '@/ui/canvas/Grip'
import { ratioOf, shown } from './cropWindow'
import { type HandPage, type HandPress } from './hand'

const CropPanel = later(() => import('./CropPanel').then((module) => module.CropPanel))

const TURN_PX = 28,
  LEAST = 1
const GRIPS: readonly (readonly [u: number, v: number, name: string])[] = [
  [0, 0, 'upper left'],
  [0.5, 0, 'upper'],
  [1, 0, 'upper right'],
  [1, 0.5, 'right'],
  [1, 1, 'lower right'],
  [0.5, 1, 'lower'],
  [0, 1, 'lower left'],
  [0, 0.5, 'left'],
]
/** The window with one of its places dragged to a point of the canvas; the opposite place stays (with `centred`: the middle). */
function stretched(
  window: Window,
  u: number,
  v: number,
  point: readonly [number, number],
  ratio: number,
  centred: boolean,
): Window {
  const map = windowToCanvas({ window }),
    [x, y] = apply(inverse(map), point[0], point[1])
  const fixed: [number, number] = centred
      ? [window.width / 2, window.height / 2]
      : [(1 - u) * window.width, (1 - v) * window.height],
    both = centred ? 2 : 1
  let width = u === 0.5 ? window.width : Math.max(LEAST, Math.abs(x - fixed[0]) * both),
    height = v === 0.5 ? window.height : Math.max(LEAST, Math.abs(y - fixed[1]) * both)
  if (ratio > 0) {
    if (v === 0.5 || (u !== 0.5 && width / height > ratio)) height = width / ratio
    else width = height * ratio
  }
  // The middle lies half a side from what stays, on the side of the pointer.
  const middle: [number, number] = centred
    ? fixed
    : [
        u === 0.5 ? fixed[0] : fixed[0] + (Math.sign(u - 0.5) * width) / 2,
        v === 0.5 ? fixed[1] : fixed[1] + (Math.sign(v - 0.5) * height) / 2,
      ]
  const [cx, cy] = apply(map, middle[0], middle[1])
  return { ...window, cx, cy, width, height }
}

/** A drag inside the window moves it; outside it draws a new one. */
function press({ project, point, scale }: HandPress) {
  const window = shown(project),
    [u, v] = apply(inverse(windowToCanvas({ window })), point[0], point[1])
  const inside = project.window !== undefined && u >= 0 && v >= 0 && u <= window.width && v <= window.height
  let moved = false
  return {
    move([x, y]: readonly [number, number]) {
      moved ||= Math.hypot(x - point[0], y - point[1]) * scale > 4
      if (!moved) return
      if (inside) preview(setWindow({ ...window, cx: window.cx + x - point[0], cy: window.cy + y - point[1] }))
      else {
        const ratio = ratioOf(get().cropRatio, project)
        preview(
          setWindow(
            stretched(
              { cx: point[0], cy: point[1], width: 0, height: 0, turn: 0 },
              x >= point[0] ? 1 : 0,
              y >= point[1] ? 1 : 0,
              [x, y],
              ratio,
              false,
            ),
          ),
        )
      }
    },
    end() {
      if (moved) settle(inside ? 'Move crop' : 'Crop')
    },
  }
}

function Handles({ project, map }: { project: Project; map: Affine }) {
  const lines = useBench((state) => state.boxLines),
    flip = useBench((state) => state.boxLinesFlip),
    grid = useBench((state) => state.boxGrid),
    ratio = useBench((state) => state.cropRatio)
  const window = shown(project),
    toScreen = compose(map, windowToCanvas({ window }))
  const at = (u: number, v: number) => apply(toScreen, u * window.width, v * window.height)
  const corners = windowCorners(window).map(([x, y]) => apply(map, x, y)),
    around = [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ].map(([u, v]) => apply(map, u * project.canvas.width, v * project.canvas.height))
  const path = (points: readonly (readonly number[])[]) => `M${points.map((p) => p.join(' ')).join('L')}Z`
  const top = at(0.5, 0),
    middle = at(0.5, 0.5),
    up = Math.hypot(top[0] - middle[0], top[1] - middle[1]) || 1
  const turn = [top[0] + ((top[0] - middle[0]) / up) * TURN_PX, top[1] + ((top[1] - middle[1]) / up) * TURN_PX]
  return (
    <g>
      <path
        d={`${path(around)}${path(corners)}`}
        fillRule="evenodd"
        fill="#1b1b1b"
        opacity={0.55}
        pointerEvents="none"
      />
      <path d={path(corners)} fill="none" stroke="#fff" strokeWidth={3} opacity={0.75} pointerEvents="none" />
      <path d={path(corners)} fill="none" stroke="#1b1b1b" pointerEvents="none" />
      {boxLines(lines, window.width / window.height, flip, grid).map((line, i) => {
        const points = line.map(([u, v]) => at(u, v).join(',')).join(' ')
        return (
          <g key={i} fill="none" pointerEvents="none">
            <polyline points={points} stroke="#fff" strokeWidth={2.2} opacity={0.55} />
            <polyline points={points} stroke="#1b1b1b" strokeWidth={0.8} opacity={0.8} />
          </g>
        )
      })}
      <line x1={top[0]} y1={top[1]} x2={turn[0]} y2={turn[1]} stroke="#1b1b1b" pointerEvents="none" />
      {GRIPS.map(([u, v, name]) => {
        const [x, y] = at(u, v)
        return (
          <Grip
            key={name}
            label={`Crop ${name}`}
            cursor={v === 0.5 ? 'ew-resize' : u === 0.5 ? 'ns-resize' : u === v ? 'nwse-resize' : 'nesw-resize'}
            x={x}
            y={y}
            shape="square"
            drag={(px, py, event) =>
              preview(
                setWindow(stretched(window, u, v, apply(inverse(map), px, py), ratioOf(ratio, project), event.altKey)),
              )
            }
          />
        )
      })}
      <Grip
        label="Straighten"
        cursor="grab"
        x={turn[0]}
        y={turn[1]}
        shape="round"
        drag={(px, py, event) => {
          const degrees = (Math.atan2(py - middle[1], px - middle[0]) * 180) / Math.PI + 90
          preview(
            setWindow({
              ...window,
              turn: event.shiftKey ? Math.round(degrees / 15) * 15 : Math.round(degrees * 10) / 10,
            }),
          )
        }}
      />
    </g>
  )
}

export const cropHand: HandPage = {
  id: 'crop',
  name: 'Crop',
  icon: Crop,
  press,
  Handles,
  Panel: CropPanel,
  hint: 'Drag the frame, or draw a new one; the round grip straightens. What lies outside is kept, and can be brought back at any time. The frame may also be larger than the canvas.',
}
