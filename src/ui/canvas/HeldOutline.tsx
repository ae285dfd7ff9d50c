/** The outline of what handles hold, seen on light and dark. @param points of the screen, as SVG has them */
export function HeldOutline({ points, dashed = false }: { points: string; dashed?: boolean }) {
  return (
    <g fill="none" pointerEvents="none">
      <polygon points={points} stroke="#fff" strokeWidth={3} opacity={0.75} />
      <polygon points={points} stroke="#1b1b1b" strokeDasharray={dashed ? '5 3' : undefined} />
    </g>
  )
}
