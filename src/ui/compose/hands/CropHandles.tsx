import { type Affine, apply, compose, inverse } from '@/core/raster/affine'
import { type Project } from '@/document/records'
import { setWindow, windowCorners, windowToCanvas } from '@/document/window'
import { BoxLinesShown } from '@/ui/finders/shape/BoxLinesShown'
import { BOX_PLACES, pullCursor } from '@/ui/canvas/box'
import { Grip } from '@/ui/canvas/Grip'
import { HeldOutline } from '@/ui/canvas/HeldOutline'
import { TurnGrip } from '@/ui/canvas/TurnGrip'
import { preview, useBench } from '@/ui/store/bench'
import { ratioOf, shown, stretched } from './cropWindow'

/** The window on the picture: what lies outside darker, its lines, and the grips that stretch and turn it. */
export function CropHandles({ project, map }: { project: Project; map: Affine }) {
  const ratio = useBench((state) => state.cropRatio)
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
  const middle = at(0.5, 0.5)
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
      <BoxLinesShown aspect={window.width / window.height} at={at} />
      {BOX_PLACES.map(([u, v, name]) => {
        const [x, y] = at(u, v)
        return (
          <Grip
            key={name}
            label={`Crop ${name}`}
            cursor={pullCursor(middle, [x, y])}
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
      <TurnGrip
        label="Straighten"
        middle={middle}
        top={at(0.5, 0)}
        turn={(turn) => preview(setWindow({ ...window, turn }))}
      />
    </g>
  )
}
