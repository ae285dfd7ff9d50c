import { type Affine, apply, inverse } from '@/core/raster/affine'
import { moveGuide, removeGuide } from '@/document/edits'
import { type Project } from '@/document/records'
import { act, preview, useBench } from '@/ui/store/bench'
import { Grip } from './Grip'
import { BAR_PX, RULER_PX } from './ruler'
import { FAR } from './SnapLines'

/** A guide dragged so far (CSS px) off the canvas is taken away. */
const OFF_PX = 20

/** The project's guides, each with a grip at the canvas's edge. */
export function GuidesOver({ project, map }: { project: Project; map: Affine }) {
  const [left, top] = apply(map, 0, 0),
    [right, bottom] = apply(map, project.canvas.width, project.canvas.height),
    ruler = useBench((state) => state.rulers) ? RULER_PX : 0
  return (
    <g data-guides={project.guides.length}>
      {project.guides.map(({ id, axis, at }, n) => {
        const [x, y] = apply(map, axis === 'x' ? at : 0, axis === 'y' ? at : 0)
        const [[x1, y1], [x2, y2]] =
            axis === 'x' ? [apply(map, at, -FAR), apply(map, at, FAR)] : [apply(map, -FAR, at), apply(map, FAR, at)],
          ends = { x1, y1, x2, y2 }
        const name = `Guide ${n + 1}`
        return (
          <g key={id}>
            <line {...ends} stroke="#fff" strokeWidth={2.5} opacity={0.5} pointerEvents="none" />
            <line
              {...ends}
              stroke="#1b1b1b"
              strokeWidth={1}
              strokeDasharray="7 3"
              opacity={0.85}
              pointerEvents="none"
            />
            <g onDoubleClick={() => act('Remove guide', removeGuide(id))}>
              <Grip
                label={name}
                cursor={axis === 'x' ? 'ew-resize' : 'ns-resize'}
                shape="diamond"
                x={axis === 'x' ? x : Math.max(14 + ruler, left)}
                y={axis === 'x' ? Math.max(BAR_PX + ruler, top) : y}
                drag={(px, py) => {
                  const off =
                    axis === 'x' ? px < left - OFF_PX || px > right + OFF_PX : py < top - OFF_PX || py > bottom + OFF_PX
                  const [gx, gy] = apply(inverse(map), px, py)
                  preview(off ? removeGuide(id) : moveGuide(id, Math.round(axis === 'x' ? gx : gy)))
                }}
              />
            </g>
          </g>
        )
      })}
    </g>
  )
}
