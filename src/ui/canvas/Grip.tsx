import { createContext, useContext, useRef } from 'react'
import { abandon, settle } from '@/ui/store/bench'
import { burst } from '@/ui/primitives/burst'
import { onEscape } from '@/ui/primitives/takenBack'

/** What is held while a grip is moved. */
export interface GripKeys {
  readonly shiftKey: boolean
  readonly altKey: boolean
  readonly ctrlKey: boolean
  readonly metaKey: boolean
  /** Moved by arrow keys: to the very px. */ readonly exact?: true
}
/** Not to be drawn to what is near. */
export const isFree = ({ ctrlKey, metaKey, exact }: GripKeys): boolean => ctrlKey || metaKey || exact === true
const NOTHING_HELD: GripKeys = { shiftKey: false, altKey: false, ctrlKey: false, metaKey: false, exact: true }
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
/** Where the picture lies: its left and upper edge, and CSS px for one of its px. */
export const PictureView = createContext({ left: 0, top: 0, scale: 1 })

interface GripProps {
  label: string
  cursor: string
  x: number
  y: number
  shape: 'square' | 'round' | 'diamond'
  drag: (x: number, y: number, keys: GripKeys) => void
  /** A press that did not move. */ press?: () => void
  /** After it was let go. */ end?: () => void
  fill?: string
  small?: boolean
}

/** A handle of 9 px that answers within 22 px, for fingers. Tab reaches it, arrow keys move it by 1 px, with Shift by 10, as one act. */
export function Grip({ label, cursor, x, y, shape, drag, press, end, fill = '#fff', small = false }: GripProps) {
  const from = useRef<{ offset: readonly [number, number]; start: readonly [number, number] } | null>(null),
    moved = useRef(false),
    letGo = useRef(() => {})
  const view = useContext(PictureView)
  return (
    <g
      transform={`translate(${x} ${y})`}
      style={{ cursor, touchAction: 'none', pointerEvents: 'all' }}
      role="button"
      tabIndex={0}
      aria-label={`${label}, ${Math.round(view.left + x / view.scale)}, ${Math.round(view.top + y / view.scale)}`}
      aria-roledescription="handle"
      data-grip={label}
      className="grip"
      onKeyDown={(event) => {
        const by = ARROWS[event.key] as readonly [number, number] | undefined
        if (!by || event.altKey || event.ctrlKey || event.metaKey) return
        event.preventDefault()
        event.stopPropagation()
        const px = (event.shiftKey ? 10 : 1) * view.scale
        const move = () => {
          press?.()
          drag(x + by[0] * px, y + by[1] * px, NOTHING_HELD)
          end?.()
        }
        burst(`grip ${label}`, move, () => settle(label))
      }}
      // A press marks no text, and leaves the focus where it is.
      onMouseDown={(event) => event.preventDefault()}
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
      onPointerCancel={() => {
        if (!from.current) return
        from.current = null
        letGo.current()
        abandon()
        end?.()
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
