'use client'
import { History } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { Tip } from '@/ui/primitives/Button'
import { timeOf } from '@/ui/primitives/when'
import { goToAct, useBench } from '@/ui/store/bench'

/** Acts listed at a time. */
const ROWS = 200

/** Its rows are made when it is opened: every act changes them. */
export function HistoryList() {
  return (
    <Popover.Root>
      <Tip text="History">
        <Popover.Trigger
          aria-label="History"
          className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
        >
          <History size={17} />
        </Popover.Trigger>
      </Tip>
      <Popover.Portal>
        <Popover.Content
          aria-label="History"
          align="end"
          sideOffset={6}
          className="z-40 max-h-[70vh] w-72 overflow-y-auto rounded-xl border border-[var(--line)] bg-[var(--panel)] p-1.5 shadow-lg"
        >
          <Acts />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

/** Every act, branches kept: the path to what is shown, and what was left behind by doing something else. */
function Acts() {
  const history = useBench((state) => state.history)
  const onPath = new Set<string>()
  for (let id = history.head; id; id = history.acts.get(id)?.parent ?? null) onPath.add(id)
  for (let id = history.onward.get(history.head ?? ''); id; id = history.onward.get(id)) onPath.add(`ahead ${id}`)
  const [rows, setRows] = useState(ROWS)
  const acts = [...history.acts.values()].reverse().slice(0, rows)
  const kind = (id: string) =>
    id === history.head ? 'here' : onPath.has(id) ? 'before' : onPath.has(`ahead ${id}`) ? 'ahead' : 'branch'
  const words = { here: 'shown now', before: '', ahead: 'undone', branch: 'other branch' }
  return (
    <>
      <p className="px-2 pt-1 pb-2 text-xs text-[var(--muted)]">
        Go back to any act. Doing something else from there starts a branch; nothing is lost.
      </p>
      {acts.map(({ id, label, at }) => (
        <button
          key={id}
          type="button"
          onClick={() => goToAct(id)}
          aria-current={kind(id) === 'here' || undefined}
          className={`flex w-full items-baseline justify-between gap-2 rounded-md px-2 py-1 text-left text-[13px] hover:bg-[var(--hover)] aria-[current]:bg-[var(--chosen)] ${kind(id) === 'ahead' || kind(id) === 'branch' ? 'text-[var(--muted)]' : ''} ${kind(id) === 'branch' ? 'pl-5' : ''}`}
        >
          <span className="truncate">{label}</span>
          <span className="shrink-0 text-[11px] text-[var(--muted)]">{words[kind(id)] || timeOf(at)}</span>
        </button>
      ))}
      {history.acts.size > rows && (
        <button
          type="button"
          onClick={() => setRows(rows + ROWS)}
          className="w-full rounded-md px-2 py-1 text-left text-[13px] underline underline-offset-2 hover:bg-[var(--hover)]"
        >
          Show older ({history.acts.size - rows} more)
        </button>
      )}
      <button
        type="button"
        onClick={() => goToAct(null)}
        aria-current={history.head === null || undefined}
        className="w-full rounded-md px-2 py-1 text-left text-[13px] hover:bg-[var(--hover)] aria-[current]:bg-[var(--chosen)]"
      >
        As it was opened first
      </button>
    </>
  )
}
