import { type Affine, apply, inverse } from '@/core/raster/affine'
import { type PathNode, subpathsOf } from '@/core/vector/path'
import { moveGuide, removeGuide } from '@/document/edits'
import { type Project } from '@/document/types'
import { act, preview, useBench } from '@/ui/store/bench'
import { Grip } from './Grip'

const FAR = 20_000
/** A guide dragged so far (CSS px) off the canvas is taken away. */
const OFF_PX = 20

/** The project's guides, each with a grip at the canvas's edge. */
export function GuidesOver({ project, map }: { project: Project; map: Affine }) {
  const [left, top] = apply(map, 0, 0),
    [right, bottom] = apply(map, project.canvas.width, project.canvas.height)
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
                x={axis === 'x' ? x : Math.max(14, left)}
                y={axis === 'x' ? Math.max(56, top) : y}
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

/** What is snapped to, while it is. */
export function SnapLines({ map }: { map: Affine }) {
  const snapped = useBench((state) => state.snapped)
  if (!snapped) return null
  const line = (key: string, [x1, y1]: [number, number], [x2, y2]: [number, number]) => (
    <line key={key} x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--accent)" strokeWidth={1} />
  )
  return (
    <g pointerEvents="none" data-snapped>
      {snapped.x !== null && line('x', apply(map, snapped.x, -FAR), apply(map, snapped.x, 2 * FAR))}
      {snapped.y !== null && line('y', apply(map, -FAR, snapped.y), apply(map, 2 * FAR, snapped.y))}
    </g>
  )
}

/** Path data drawn on the screen. */
export function screenPath(d: string, toScreen: (x: number, y: number) => [number, number]): string {
  const at = (point: readonly [number, number]) =>
    toScreen(point[0], point[1])
      .map((v) => v.toFixed(1))
      .join(' ')
  const piece = (from: PathNode, to: PathNode) => `C${at(from.out ?? from.at)} ${at(to.into ?? to.at)} ${at(to.at)}`
  return subpathsOf(d)
    .map(
      ({ nodes, closed }) =>
        `M${at(nodes[0].at)}${nodes
          .slice(1)
          .map((node, i) => piece(nodes[i], node))
          .join('')}${closed ? `${piece(nodes[nodes.length - 1], nodes[0])}Z` : ''}`,
    )
    .join('')
}

/** A path that is looked at before it is kept. */
export function PathShown({ toScreen }: { toScreen: (x: number, y: number) => [number, number] }) {
  const d = useBench((state) => state.pathShown)
  if (!d) return null
  const shown = screenPath(d, toScreen)
  return (
    <g pointerEvents="none" fill="none" data-path-shown>
      <path d={shown} stroke="#fff" strokeWidth={3} />
      <path d={shown} stroke="var(--accent)" strokeWidth={1.5} />
      {subpathsOf(d)
        .flatMap(({ nodes }) => nodes)
        .slice(0, 1500)
        .map(({ at }, i) => {
          const [x, y] = toScreen(at[0], at[1])
          return <rect key={i} x={x - 2.5} y={y - 2.5} width={5} height={5} fill="#fff" stroke="#1b1b1b" />
        })}
    </g>
  )
}
