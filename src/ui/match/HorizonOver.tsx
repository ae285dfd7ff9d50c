'use client'
/** The horizon as a line on the picture: the new sky's, to be dragged; the photo's where there is none yet. */
import { type Affine, apply, inverse } from '@/core/raster/affine'
import { newSkyAt } from '@/document/newSkyParts'
import { type Project } from '@/document/records'
import { usePull } from '@/ui/canvas/pull'
import { actInBurst, useBench } from '@/ui/store/bench'
import { useMatchTool } from './matchTool'
import { keyOf, usePhoto } from './photoMeasures'
import { layHorizon, skyThere } from './skyActs'
import { useSkies } from './skyLibrary'

/** Half the handle's size, CSS px. */
const HALF = [32, 10] as const

export function HorizonOver({ project, map }: { project: Project; map: Affine }) {
  const parts = newSkyAt(project.layers, project.activeLayer),
    { photo, found } = usePhoto(),
    skies = useSkies()
  const pull = usePull<number>()
  const compared = useBench((state) => state.divider !== null || state.without.length > 0),
    sky = useMatchTool() === 'sky' && !compared,
    horizon = sky && parts && keyOf(parts.photo) === photo ? found?.measures.horizon : null
  if (!parts || !horizon) return null
  const there = skyThere(parts, skies),
    { width, height } = project.canvas,
    reads = there?.reads,
    y = parts.sky && reads ? apply(parts.sky.placement, 0, reads.horizonY)[1] : horizon.y,
    [left, row] = apply(map, 0, y),
    [right] = apply(map, width, y),
    middle = (Math.max(0, left) + right) / 2
  const line = { x1: left, x2: right, y1: row, y2: row }
  const edit = (to: number) => layHorizon(found!.measures, parts, reads!, Math.min(height, Math.max(1, to)))
  return (
    <g data-horizon={Math.round(y)}>
      <line {...line} stroke="#1b1b1b" strokeWidth={1} opacity={0.7} />
      <line {...line} stroke="#fff" strokeWidth={1} strokeDasharray="4 4" />
      {parts.sky && reads && (
        <g
          role="slider"
          tabIndex={0}
          aria-label="Horizon of the sky"
          aria-orientation="vertical"
          aria-valuemin={0}
          aria-valuemax={height}
          aria-valuenow={Math.round(y)}
          aria-valuetext={`${Math.round((100 * y) / height)} % down`}
          data-grip="Horizon of the sky"
          style={{ pointerEvents: 'all', cursor: 'ns-resize', touchAction: 'none' }}
          onKeyDown={(event) => {
            const by = { ArrowUp: -1, ArrowDown: 1 }[event.key]
            if (!by) return
            event.preventDefault()
            event.stopPropagation()
            actInBurst('Move the horizon', edit(y + by * (event.shiftKey ? 10 : 1)))
          }}
          {...pull('Move the horizon', row, (was, from, to) =>
            to[1] === from[1] ? null : edit(apply(inverse(map), 0, was + to[1] - from[1])[1]),
          )}
        >
          <rect
            x={middle - HALF[0]}
            y={row - HALF[1]}
            width={2 * HALF[0]}
            height={2 * HALF[1]}
            rx={5}
            fill="#1b1b1b"
            stroke="#fff"
            strokeOpacity={0.6}
          />
          <text x={middle} y={row + 4} fill="#fff" fontSize={11.5} textAnchor="middle" pointerEvents="none">
            horizon
          </text>
        </g>
      )}
    </g>
  )
}
