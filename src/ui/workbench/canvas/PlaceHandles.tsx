import { apply, compose, inverse, type Affine } from '@/core/raster/affine'
import { changeLayer, layerById } from '@/document/edits'
import { type Project } from '@/document/types'
import { preview } from '@/ui/store/bench'
import { Grip } from './Grip'
import { scaledAbout, turnedAboutMiddle } from './placement'

const TURN_PX = 28
const LEAST_SCALE = 0.005

/** The active layer's box: corners scale it about the opposite corner (Alt: about the middle), the round grip turns it. */
export function PlaceHandles({ project, map }: { project: Project; map: Affine }) {
  const layer = layerById(project, project.activeLayer)
  if (!layer || !layer.visible) return null
  const toScreen = compose(map, layer.placement)
  const at = (u: number, v: number) => apply(toScreen, u * layer.width, v * layer.height)
  const corners = [at(0, 0), at(1, 0), at(1, 1), at(0, 1)]
  const top = at(0.5, 0), middle = at(0.5, 0.5)
  const up = Math.hypot(top[0] - middle[0], top[1] - middle[1]) || 1
  const turn = [top[0] + ((top[0] - middle[0]) / up) * TURN_PX, top[1] + ((top[1] - middle[1]) / up) * TURN_PX]
  const place = (placement: Affine) => preview(changeLayer(layer.id, { placement }))
  const points = corners.map((corner) => corner.join(',')).join(' ')
  return (
    <g>
      <polygon points={points} fill="none" stroke="#fff" strokeWidth={3} opacity={0.75} pointerEvents="none" />
      <polygon points={points} fill="none" stroke="#1b1b1b" strokeWidth={1} pointerEvents="none" />
      <line x1={top[0]} y1={top[1]} x2={turn[0]} y2={turn[1]} stroke="#1b1b1b" pointerEvents="none" />
      {([[0, 0, 'upper left'], [1, 0, 'upper right'], [1, 1, 'lower right'], [0, 1, 'lower left']] as const).map(([u, v, name]) => {
        const [x, y] = at(u, v)
        return <Grip key={name} label={`Scale ${layer.name} ${name}`} cursor={u === v ? 'nwse-resize' : 'nesw-resize'} x={x} y={y} shape="square" drag={(px, py, event) => {
          const fixed = event.altKey ? middle : at(1 - u, 1 - v)
          const was = Math.hypot(x - fixed[0], y - fixed[1])
          const along = ((px - fixed[0]) * (x - fixed[0]) + (py - fixed[1]) * (y - fixed[1])) / (was * was)
          const [cx, cy] = apply(inverse(map), fixed[0], fixed[1])
          place(scaledAbout(layer.placement, Math.max(LEAST_SCALE, along), cx, cy))
        }} />
      })}
      <Grip label={`Turn ${layer.name}`} cursor="grab" x={turn[0]} y={turn[1]} shape="round" drag={(px, py, event) => {
        const now = (Math.atan2(turn[1] - middle[1], turn[0] - middle[0]) * 180) / Math.PI, next = (Math.atan2(py - middle[1], px - middle[0]) * 180) / Math.PI
        const by = next - now
        place(turnedAboutMiddle(layer.placement, layer, event.shiftKey ? Math.round(by / 15) * 15 : by))
      }} />
    </g>
  )
}
