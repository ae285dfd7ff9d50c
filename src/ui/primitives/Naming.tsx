'use client'
import { useEffect, useRef } from 'react'
import { LONGEST_NAME } from '@/core/fields/fields'

const CLOSED_MS = 40

/** A name being typed: Enter or leaving takes it, Escape leaves it as it was. */
export function Naming({
  label,
  name,
  done,
  className = 'h-6 w-28 rounded-md px-1.5 text-xs',
}: {
  label: string
  name: string
  done: (name: string) => void
  className?: string
}) {
  const cancelled = useRef(false),
    input = useRef<HTMLInputElement>(null)
  // A menu that is closing holds the focus until it is gone.
  useEffect(() => {
    const timer = setTimeout(() => input.current?.focus(), CLOSED_MS)
    return () => clearTimeout(timer)
  }, [])
  return (
    <input
      ref={input}
      autoFocus
      aria-label={label}
      defaultValue={name}
      maxLength={LONGEST_NAME}
      // It may stand in a link, or in a row that is dragged.
      onClick={(event) => event.preventDefault()}
      onPointerDown={(event) => event.stopPropagation()}
      onFocus={(event) => event.target.select()}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.nativeEvent.isComposing) return
        if (event.key === 'Escape') cancelled.current = true
        if (event.key === 'Enter') event.preventDefault()
        if (event.key === 'Escape' || event.key === 'Enter') event.currentTarget.blur()
      }}
      onBlur={(event) => done(cancelled.current ? name : event.target.value.trim() || name)}
      className={`border border-[var(--line-strong)] bg-[var(--field)] ${className}`}
    />
  )
}
