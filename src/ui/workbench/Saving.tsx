'use client'
/** Whether the work is safe: on the server, on its way, or kept in this browser until the server is back; and what could not be saved. */
import { Check, CircleAlert, CloudOff, LoaderCircle } from 'lucide-react'
import { Popover } from 'radix-ui'
import { type ReactNode } from 'react'
import { Button, Tip } from '@/ui/primitives/Button'
import { useBench } from '@/ui/store/bench'
import { discardAside, downloadAside, keepAsNewProject, sendNow } from '@/ui/store/sync'

const GOOD = 'text-[light-dark(#15703a,#6fcf97)]',
  QUIET = 'text-[var(--muted)]',
  CAREFUL = 'text-[var(--accent-text)] font-semibold',
  BAD = 'text-[var(--error)] font-semibold'

export function Saving() {
  const { state, unsent, problem, kept } = useBench((s) => s.saving),
    changing = useBench((s) => s.live !== null)
  const changes = `${unsent} ${unsent === 1 ? 'change' : 'changes'}`
  const where = kept
    ? 'Saved in this browser, and sent as soon as the server is back. Go on working.'
    : 'This browser keeps nothing: leave the tab open until the server is back.'
  const ways: Record<typeof state, [ReactNode, string, string, string]> = {
    saved: [<Check key="i" size={14} />, 'Saved', GOOD, 'Everything is on the server.'],
    sending: [
      <LoaderCircle key="i" size={14} className="animate-spin" />,
      'Saving',
      QUIET,
      `${changes} on the way to the server.${kept ? '' : ' This browser keeps nothing: leave the tab open.'}`,
    ],
    waiting: [<CloudOff key="i" size={14} />, `${changes} not saved yet`, CAREFUL, `${problem ?? ''} ${where}`],
    gone: [<CloudOff key="i" size={14} />, 'Deleted elsewhere', BAD, 'This project was deleted elsewhere.'],
  }
  const [icon, text, tone, hint] = ways[state]
  return (
    <>
      <Aside />
      {state === 'gone' ? (
        <Gone text={text} tone={tone} icon={icon} />
      ) : (
        <Tip text={hint}>
          <button
            type="button"
            onClick={sendNow}
            data-saving={state === 'saved' && changing ? 'changing' : state}
            data-kept={kept}
            title={problem}
            aria-live="polite"
            className={`mr-1 flex items-center gap-1 rounded-md px-1.5 py-1 text-[12.5px] whitespace-nowrap ${tone}`}
          >
            {icon}
            {text}
          </button>
        </Tip>
      )}
    </>
  )
}

const sheet = 'z-40 w-80 rounded-xl border border-[var(--line)] bg-[var(--panel)] p-3 text-[13px] shadow-lg'

function Gone({ text, tone, icon }: { text: string; tone: string; icon: ReactNode }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        data-saving="gone"
        className={`mr-1 flex items-center gap-1 rounded-md px-1.5 py-1 text-[12.5px] whitespace-nowrap ${tone}`}
      >
        {icon}
        {text}
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
function Aside() {
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
