import { type PointerEvent, type ReactNode, useId } from 'react'
import { burst } from './burst'
import { useHeld } from './useHeld'

const HEIGHT = 74

interface Props {
  label: string
  value: number
  /** The chart goes from 0 to this, in steps. */
  most: number
  step: number
  /** What the value comes to. */ says?: string
  /** Where the chart is drawn. */ holder: React.RefObject<HTMLDivElement | null>
  /** What it shows is being made anew. */ faded: boolean
  caption: string
  /** Words over it. */ children?: ReactNode
  onPreview: (value: number) => void
  onSettle: (value: number) => void
}

/** A chart with a value on it: press or drag to set it (Escape takes the drag back), arrow keys for single steps, with Shift for ten. */
export function ChartSlider({
  label,
  value,
  most,
  step,
  says,
  holder,
  faded,
  caption,
  children,
  onPreview,
  onSettle,
}: Props) {
  const id = useId(),
    held = useHeld(onPreview),
    holds = (event: PointerEvent) => !held.givenBack && event.currentTarget.hasPointerCapture(event.pointerId)
  const within = (v: number) => Math.min(most, Math.max(0, v)),
    at = (clientX: number): number => {
      const box = holder.current!.getBoundingClientRect()
      return Math.round(within(((clientX - box.left) / box.width) * most) / step) * step
    }
  return (
    <figure className="mt-0.5">
      <div
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={most}
        aria-valuenow={value}
        aria-valuetext={says}
        onKeyDown={(event) => {
          const by = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step }[event.key]
          if (by) {
            event.preventDefault()
            event.stopPropagation()
            const next = within(value + by * (event.shiftKey ? 10 : 1))
            burst(
              id,
              () => onPreview(next),
              () => onSettle(next),
            )
          }
        }}
        onPointerDown={(event) => {
          if (event.button !== 0) return
          event.currentTarget.setPointerCapture(event.pointerId)
          held.take(value)
          onPreview(at(event.clientX))
        }}
        onPointerMove={(event) => {
          if (holds(event)) onPreview(at(event.clientX))
        }}
        onPointerUp={(event) => {
          if (holds(event)) onSettle(at(event.clientX))
        }}
        onPointerCancel={() => held.giveBack()}
        onLostPointerCapture={() => held.letGo()}
        className="relative cursor-ew-resize touch-none overflow-hidden rounded-md border border-[var(--line)] bg-[var(--field)]"
        style={{ height: HEIGHT }}
      >
        <div ref={holder} className={`pointer-events-none absolute inset-0 ${faded ? 'opacity-40' : ''}`} />
        {children}
      </div>
      <figcaption className="mt-1 text-xs text-[var(--muted)]">{caption}</figcaption>
    </figure>
  )
}

/** What stands over a chart as long as there is none. */
export const NoChartYet = ({ words }: { words: string }) => (
  <p className="absolute inset-0 grid place-items-center text-xs text-[var(--muted)]">{words}</p>
)
