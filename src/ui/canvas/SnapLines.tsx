import { type Affine, apply } from '@/core/raster/affine'
import { useBench } from '@/ui/store/bench'

/** Lines that go on beyond every screen, canvas px. */
export const FAR = 20_000

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
