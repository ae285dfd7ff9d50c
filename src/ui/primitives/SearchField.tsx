'use client'
import { Search } from 'lucide-react'

/** Words to look for, taken as they are typed. */
export function SearchField({
  label,
  value,
  onChange,
  className = 'w-44',
}: {
  label: string
  value: string
  onChange: (words: string) => void
  className?: string
}) {
  return (
    <label className="relative">
      <Search size={14} className="absolute top-2 left-2.5 text-[var(--muted)]" />
      <input
        type="search"
        aria-label={label}
        placeholder="Search"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className={`h-8 rounded-lg border border-[var(--line-strong)] bg-[var(--field)] pr-2 pl-8 ${className}`}
      />
    </label>
  )
}
