'use client'
import Link from 'next/link'
import { TabTitle } from './TabTitle'

/** A page that cannot be shown, why, and what can be done. */
export function Failed({
  title,
  problem,
  again,
  back,
}: {
  title: string
  problem: string
  again?: () => void
  /** Where else to go: address and words. */ back: readonly [href: string, words: string]
}) {
  return (
    <main className="grid h-screen place-items-center p-8">
      <TabTitle shown={title} />
      <div className="max-w-md space-y-4 text-center" role="alert">
        <h1 className="text-lg font-semibold">{title}</h1>
        <p className="text-[var(--muted)]">{problem}</p>
        <p className="flex justify-center gap-3">
          {again && (
            <button
              type="button"
              className="rounded-lg bg-[var(--ink)] px-4 py-2 text-sm font-semibold text-[var(--panel)]"
              onClick={again}
            >
              Try again
            </button>
          )}
          <Link href={back[0]} className="rounded-lg border border-[var(--line)] px-4 py-2 text-sm font-semibold">
            {back[1]}
          </Link>
        </p>
      </div>
    </main>
  )
}
