'use client'
/** What could not be saved, and what can be done about it. */
import { CircleAlert, CloudOff } from 'lucide-react'
import { Popover } from 'radix-ui'
import { Button } from '@/ui/primitives/Button'
import { useBench } from '@/ui/store/bench'
import { discardAside, downloadAside, keepAsNewProject } from '@/ui/store/sync'

const BAD = 'text-[var(--error)] font-semibold'
const sheet = 'z-40 w-80 rounded-xl border border-[var(--line)] bg-[var(--panel)] p-3 text-[13px] shadow-lg'

export function Gone() {
  return (
    <Popover.Root>
      <Popover.Trigger
        data-saving="gone"
        className={`mr-1 flex items-center gap-1 rounded-md px-1.5 py-1 text-[12.5px] whitespace-nowrap ${BAD}`}
      >
        <CloudOff size={14} />
        Deleted elsewhere
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={6} className={sheet}>
          <p className="mb-3 leading-relaxed">
            This project was deleted in another tab or browser. What you see here is still whole: keep it as a new
            project.
          </p>
          <Button tone="accent" onClick={() => void keepAsNewProject()}>
            Save as a new project
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

/** Changes that were set aside: what they were, why, and what can be done. */
export function Aside() {
  const aside = useBench((state) => state.aside)
  if (!aside.length) return null
  return (
    <Popover.Root>
      <Popover.Trigger
        data-aside={aside.length}
        className={`flex items-center gap-1 rounded-md px-1.5 py-1 text-[12.5px] whitespace-nowrap ${BAD}`}
      >
        <CircleAlert size={14} />
        {aside.length} set aside
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={6} className={sheet}>
          <p className="mb-2 leading-relaxed text-[var(--muted)]">
            These changes could not be saved and are not in the picture. Everything else is.
          </p>
          <ul className="max-h-64 space-y-2 overflow-y-auto">
            {aside.map(({ id, act, why }) => (
              <li key={id} className="flex items-start justify-between gap-2">
                <span className="min-w-0">
                  <span className="block truncate font-semibold">{act.label}</span>
                  <span className="block text-xs leading-relaxed text-[var(--muted)]">{why}</span>
                </span>
                <button
                  type="button"
                  className="shrink-0 text-xs underline underline-offset-2"
                  onClick={() => discardAside(id)}
                >
                  Discard
                </button>
              </li>
            ))}
          </ul>
          <Button className="mt-3" onClick={downloadAside}>
            Download {aside.length === 1 ? 'it' : 'them'}
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
