'use client'
import { useId, useState } from 'react'
import { evaluate } from './arithmetic'

export interface NumberProps {
  label: string
  value: number
  min: number
  max: number
  unit?: string
  digits?: number
  /** How much one of each unit that may be typed is. */ units?: Readonly<Record<string, number>>
  onSettle: (value: number) => void
  className?: string
}

/** A typed number, with units and arithmetic; Escape takes the typing back. */
export function NumberField({
  label,
  value,
  min,
  max,
  unit = '',
  digits = 0,
  units,
  onSettle,
  className = '',
}: NumberProps) {
  const shown = `${value.toFixed(digits)}${unit ? ` ${unit}` : ''}`
  const id = useId()
  const [typed, setTyped] = useState<string | null>(null)
  const wrong = typed !== null && evaluate(typed, unit, units) === null
  const settle = () => {
    const next = typed === null ? null : evaluate(typed, unit, units)
    setTyped(null)
    if (next !== null) onSettle(Math.min(max, Math.max(min, next)))
  }
  return (
    <span className={`relative inline-block shrink-0 ${className}`}>
      <input
        aria-label={label}
        aria-invalid={wrong || undefined}
        aria-describedby={wrong ? id : undefined}
        inputMode="decimal"
        spellCheck={false}
        value={typed ?? shown}
        onChange={(event) => setTyped(event.target.value)}
        onFocus={(event) => event.target.select()}
        onBlur={settle}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Enter' && !wrong) event.currentTarget.blur() // which settles, and gives single keys back to the bench
          if (event.key === 'Escape') {
            setTyped(null)
            event.currentTarget.blur()
          }
          if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
            event.preventDefault()
            const by = (event.shiftKey ? 10 : 1) * (event.key === 'ArrowUp' ? 1 : -1) * 10 ** -digits
            setTyped(null)
            onSettle(Math.min(max, Math.max(min, value + by)))
          }
        }}
        className="h-6 w-full rounded-[5px] border border-[var(--line-strong)] bg-[var(--field)] px-1.5 text-right font-mono text-[12px] tabular-nums hover:border-[var(--line-strong)] focus:border-[var(--ink)] aria-[invalid]:border-[var(--error)]"
      />
      {wrong && (
        <span
          id={id}
          role="alert"
          className="absolute top-full right-0 z-50 mt-1 w-44 rounded-md border border-[var(--error)] bg-[var(--panel)] px-2 py-1.5 text-left font-sans text-xs leading-snug shadow-md"
        >
          {taken(min, max, unit, units)}
        </span>
      )}
    </span>
  )
}

/** What a field takes, in words. */
const taken = (min: number, max: number, unit: string, units: NumberProps['units']): string =>
  [
    max >= UNBOUNDED ? 'A number' : `A number from ${shownLimit(min)} to ${shownLimit(max)}${unit ? ` ${unit}` : ''}`,
    units && `in ${Object.keys(units).join(', ')}`,
    'or arithmetic, as 3*80+5.',
  ]
    .filter(Boolean)
    .join(', ')
/** Limits this wide say nothing. */
const UNBOUNDED = 1e5
const shownLimit = (value: number): string => value.toLocaleString('en', { maximumFractionDigits: 2 })
