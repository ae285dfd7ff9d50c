import { type Affine, apply, compose, inverse } from '@/core/raster/affine'
import { type Project } from '@/document/records'
import { setWindow, windowCorners, windowToCanvas } from '@/document/window'
import { boxLines } from '@/ui/finders/shape/boxLines'
import { BOX_PLACES } from '@/ui/canvas/box'
import { Grip } from '@/ui/canvas/Grip'
import { HeldOutline } from '@/ui/canvas/HeldOutline'
import { preview, useBench } from '@/ui/store/bench'
import { ratioOf, shown, stretched } from './cropWindow'

const TURN_PX = 28

/** The window on the picture: what lies outside darker, its lines, and the grips that stretch and turn it. */
export function CropHandles({ project, map }: { project: Project; map: Affine }) {
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
      <HeldOutline points={corners.join(' ')} />
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
      {BOX_PLACES.map(([u, v, name]) => {
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
