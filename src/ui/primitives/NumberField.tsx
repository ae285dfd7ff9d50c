'use client'
import { useState } from 'react'
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
  const [typed, setTyped] = useState<string | null>(null)
  const wrong = typed !== null && evaluate(typed, unit, units) === null
  const settle = () => {
    const next = typed === null ? null : evaluate(typed, unit, units)
    setTyped(null)
    if (next !== null) onSettle(Math.min(max, Math.max(min, next)))
  }
  return (
    <input
      aria-label={label}
      aria-invalid={wrong || undefined}
      title={wrong ? `A number from ${min} to ${max}${unit ? ` ${unit}` : ''}` : undefined}
      inputMode="decimal"
      spellCheck={false}
      value={typed ?? shown}
      onChange={(event) => setTyped(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={settle}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Enter') event.currentTarget.blur() // which settles, and gives single keys back to the bench
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
      className={`h-7 rounded-md border border-transparent bg-transparent px-1 text-right font-mono text-[12.5px] tabular-nums hover:border-[var(--line)] focus:border-[var(--line-strong)] focus:bg-[var(--field)] aria-[invalid]:border-[#a31515] ${className}`}
    />
  )
}
