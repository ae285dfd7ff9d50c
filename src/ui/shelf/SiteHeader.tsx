'use client'
import { Scissors } from 'lucide-react'
import Link from 'next/link'
import { ThemeChoice } from '@/ui/primitives/ThemeChoice'
import { TabTitle } from '@/ui/primitives/TabTitle'

const PLACES = [
  ['projects', '/', 'Projects'],
  ['library', '/library', 'Library'],
  ['batches', '/batches', 'Batches'],
] as const

/** The head of the pages outside a project. */
export function SiteHeader({ here }: { here: (typeof PLACES)[number][0] }) {
  return (
    <header className="mb-6 flex items-center gap-3">
      <TabTitle shown={PLACES.find(([id]) => id === here)?.[2]} />
      <span className="grid size-9 place-items-center rounded-xl bg-[var(--accent)] text-white">
        <Scissors size={20} />
      </span>
      <div className="mr-auto">
        <h1 className="text-lg leading-tight font-bold">Wily Scissor</h1>
        <p className="text-[13px] text-[var(--muted)]">Cut out, replace, compose. Every step stays editable.</p>
      </div>
      <nav aria-label="Places" className="flex gap-1 text-[13px]">
        {PLACES.map(([id, href, name]) => (
          <Link
            key={id}
            href={href}
            aria-current={id === here ? 'page' : undefined}
            className="rounded-lg px-3 py-2 font-semibold hover:bg-[var(--hover)] aria-[current=page]:bg-[var(--chosen)]"
          >
            {name}
          </Link>
        ))}
      </nav>
      <ThemeChoice />
    </header>
  )
}
