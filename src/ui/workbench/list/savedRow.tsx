'use client'
/** What rows of kept things share. */
import { LIMITS } from '@/document/limits'
import { useTyping } from '@/ui/primitives/useTyping'

export const small = '!min-h-7 !px-2 !text-xs'

export const heading = 'mb-1 text-xs font-semibold text-[var(--muted)]'

export function Name({ name, rename }: { name: string; rename: (name: string) => void }) {
  const { field } = useTyping(name, (typed) => {
    const next = typed.trim()
    if (next && next !== name) rename(next)
  })
  return (
    <input
      aria-label={`Name of ${name}`}
      {...field}
      maxLength={LIMITS.name}
      className="h-7 min-w-0 flex-1 rounded-md border border-transparent bg-transparent px-1 text-[13px] hover:border-[var(--line)] focus:border-[var(--line-strong)] focus:bg-[var(--field)]"
    />
  )
}
