'use client'
import { useId } from 'react'
import { evaluate } from './arithmetic'
import { useTyping } from './useTyping'

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
  const put = (next: number) => onSettle(Math.min(max, Math.max(min, next)))
  const { typed, takeBack, field } = useTyping(shown, (text) => {
    const next = evaluate(text, unit, units)
    if (next !== null) put(next)
  })
  const wrong = typed !== null && evaluate(typed, unit, units) === null
  return (
    <span className={`relative inline-block shrink-0 ${className}`}>
      <input
        aria-label={label}
        aria-invalid={wrong || undefined}
        aria-describedby={wrong ? id : undefined}
        inputMode="decimal"
        {...field}
        onFocus={(event) => event.target.select()}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && wrong) event.stopPropagation()
          else field.onKeyDown(event)
          if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
            event.preventDefault()
            takeBack()
            put(value + (event.shiftKey ? 10 : 1) * (event.key === 'ArrowUp' ? 1 : -1) * 10 ** -digits)
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
