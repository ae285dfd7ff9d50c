'use client'
/** Whether the work is safe: on the server, on its way, or kept in this browser until the server is back. */
import { Check, CloudOff, LoaderCircle } from 'lucide-react'
import { type ReactNode } from 'react'
import { Tip } from '@/ui/primitives/Button'
import { later } from '@/ui/primitives/later'
import { useBench } from '@/ui/store/bench'
import { sendNow } from '@/ui/store/sync'
import { counted } from '@/ui/primitives/counted'

const Aside = later(() => import('./Unsaved').then((module) => module.Aside))
const Gone = later(() => import('./Unsaved').then((module) => module.Gone))

const GOOD = 'text-[light-dark(#15703a,#6fcf97)]',
  QUIET = 'text-[var(--muted)]',
  CAREFUL = 'text-[var(--accent-text)] font-semibold'

export function Saving() {
  const { state, unsent, problem, kept } = useBench((s) => s.saving),
    changing = useBench((s) => s.live !== null)
  const changes = counted(unsent, 'change')
  const where = kept
    ? 'Saved in this browser, and sent as soon as the server is back. Go on working.'
    : 'This browser keeps nothing: leave the tab open until the server is back.'
  if (state === 'gone')
    return (
      <>
        <Aside />
        <Gone />
      </>
    )
  const ways: Record<typeof state, [ReactNode, string, string, string]> = {
    saved: [<Check key="i" size={14} />, 'Saved', GOOD, 'Everything is on the server.'],
    sending: [
      <LoaderCircle key="i" size={14} className="animate-spin" />,
      'Saving',
      QUIET,
      `${changes} on the way to the server.${kept ? '' : ' This browser keeps nothing: leave the tab open.'}`,
    ],
    waiting: [<CloudOff key="i" size={14} />, `${changes} not saved yet`, CAREFUL, `${problem ?? ''} ${where}`],
  }
  const [icon, text, tone, hint] = ways[state]
  return (
    <>
      <Aside />
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
    </>
  )
}
