import { useRef } from 'react'
import { abandon, settle } from '@/ui/store/bench'
import { onEscape } from './takenBack'

interface GripProps {
  label: string
  cursor: string
  x: number
  y: number
  shape: 'square' | 'round' | 'diamond'
  drag: (x: number, y: number, event: React.PointerEvent) => void
  /** A press that did not move. */ press?: () => void
  /** After it was let go. */ end?: () => void
  fill?: string
  small?: boolean
}

/** A handle of 9 px that answers within 22 px, for fingers. */
export function Grip({ label, cursor, x, y, shape, drag, press, end, fill = '#fff', small = false }: GripProps) {
  const from = useRef<{ offset: readonly [number, number]; start: readonly [number, number] } | null>(null),
    moved = useRef(false),
    letGo = useRef(() => {})
  return (
    <g
      transform={`translate(${x} ${y})`}
      style={{ cursor, touchAction: 'none', pointerEvents: 'all' }}
      aria-label={label}
      data-grip={label}
      onPointerDown={(event) => {
        if (event.button !== 0) return
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        moved.current = false
        from.current = { offset: [event.clientX - x, event.clientY - y], start: [event.clientX, event.clientY] }
        letGo.current = onEscape(() => {
          from.current = null
          abandon()
          end?.()
        })
        press?.()
      }}
      onPointerMove={(event) => {
        const at = from.current
        if (!at || !event.currentTarget.hasPointerCapture(event.pointerId)) return
        moved.current ||= event.clientX !== at.start[0] || event.clientY !== at.start[1]
        if (moved.current) drag(event.clientX - at.offset[0], event.clientY - at.offset[1], event)
      }}
      onPointerUp={(event) => {
        if (from.current) {
          from.current = null
          letGo.current()
          event.stopPropagation()
          settle(label)
          end?.()
        }
      }}
    >
      <circle r={11} fill="transparent" />
      {shape === 'round' ? (
        <circle r={small ? 3.5 : 5} fill={fill} stroke="#1b1b1b" strokeWidth={1.25} />
      ) : (
        <rect
          x={-4.5}
          y={-4.5}
          width={9}
          height={9}
          fill={fill}
          stroke="#1b1b1b"
          strokeWidth={1.25}
          transform={shape === 'diamond' ? 'rotate(45) scale(0.85)' : undefined}
        />
      )}
    </g>
  )
}
