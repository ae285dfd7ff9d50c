import { useRef } from 'react'
import { settle } from '@/ui/store/bench'

interface GripProps { label: string; cursor: string; x: number; y: number; shape: 'square' | 'round' | 'diamond'; drag: (x: number, y: number, event: React.PointerEvent) => void }

/** A handle of 9 px that answers within 22 px, for fingers. */
export function Grip({ label, cursor, x, y, shape, drag }: GripProps) {
  const from = useRef<readonly [number, number] | null>(null)
  return (
    <g transform={`translate(${x} ${y})`} style={{ cursor, touchAction: 'none', pointerEvents: 'all' }} aria-label={label} data-grip={label}
      onPointerDown={(event) => { if (event.button !== 0) return; event.stopPropagation(); event.currentTarget.setPointerCapture(event.pointerId); from.current = [event.clientX - x, event.clientY - y] }}
      onPointerMove={(event) => { if (from.current && event.currentTarget.hasPointerCapture(event.pointerId)) drag(event.clientX - from.current[0], event.clientY - from.current[1], event) }}
      onPointerUp={(event) => { if (from.current) { from.current = null; event.stopPropagation(); settle(label) } }}>
      <circle r={11} fill="transparent" />
      {shape === 'round' ? <circle r={5} fill="#fff" stroke="#1b1b1b" strokeWidth={1.25} /> : <rect x={-4.5} y={-4.5} width={9} height={9} fill="#fff" stroke="#1b1b1b" strokeWidth={1.25} transform={shape === 'diamond' ? 'rotate(45) scale(0.85)' : undefined} />}
    </g>
  )
}
