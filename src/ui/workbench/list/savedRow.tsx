'use client'
/** What rows of kept things share. */
import { LIMITS } from '@/document/limits'

export const small = '!min-h-7 !px-2 !text-xs'

export const heading = 'mb-1 text-xs font-semibold text-[var(--muted)]'

export function Name({ name, rename }: { name: string; rename: (name: string) => void }) {
  return (
    <input
      aria-label={`Name of ${name}`}
      defaultValue={name}
      key={name}
      maxLength={LIMITS.name}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Enter') event.currentTarget.blur()
      }}
      onBlur={(event) => {
        const next = event.target.value.trim()
        if (next && next !== name) rename(next)
        else event.target.value = name
      }}
      className="h-7 min-w-0 flex-1 rounded-md border border-transparent bg-transparent px-1 text-[13px] hover:border-[var(--line)] focus:border-[var(--line-strong)] focus:bg-[var(--field)]"
    />
  )
}
