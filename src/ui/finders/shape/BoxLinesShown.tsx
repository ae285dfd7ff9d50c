import { useBench } from '@/ui/store/bench'
import { boxLines } from './boxLines'

/** The lines chosen inside a box, seen on light and dark. @param aspect width ÷ height of the box @param at px of the screen of a place in it, in shares of its sides */
export function BoxLinesShown({
  aspect,
  at,
}: {
  aspect: number
  at: (u: number, v: number) => readonly [number, number]
}) {
  const lines = useBench((state) => state.boxLines),
    flip = useBench((state) => state.boxLinesFlip),
    grid = useBench((state) => state.boxGrid)
  return (
    <g fill="none" pointerEvents="none">
      {boxLines(lines, aspect, flip, grid).map((line, i) => {
        const points = line.map(([u, v]) => at(u, v).join(',')).join(' ')
        return (
          <g key={i}>
            <polyline points={points} stroke="#fff" strokeWidth={2.2} opacity={0.55} />
            <polyline points={points} stroke="#1b1b1b" strokeWidth={0.8} opacity={0.8} />
          </g>
        )
      })}
    </g>
  )
}
