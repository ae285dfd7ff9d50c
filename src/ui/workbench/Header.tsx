'use client'
import { CircleHelp, History, Redo2, Scissors, Search, Undo2 } from 'lucide-react'
import Link from 'next/link'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { renameProject } from '@/document/edits'
import { LIMITS } from '@/document/limits'
import { windowSize } from '@/document/window'
import { IconButton, Tip } from '@/ui/primitives/Button'
import { act, goToAct, goToStage, redoAct, shownProject, undoAct, useBench } from '@/ui/store/bench'
import { STAGES } from './command'
import { Saving } from './Saving'

export function Header({ openCommands, openHelp }: { openCommands: () => void; openHelp: () => void }) {
  const project = useBench(shownProject),
    stage = useBench((state) => state.stage),
    history = useBench((state) => state.history)
  const canUndo = history.head !== null,
    canRedo = history.onward.has(history.head ?? '')
  return (
    <header className="flex h-[46px] shrink-0 items-center gap-3 border-b border-[var(--line)] bg-[var(--panel)] px-3">
      <Tip text="All projects">
        <Link
          href="/"
          aria-label="All projects"
          className="grid size-7 shrink-0 place-items-center rounded-lg bg-[var(--accent)] text-white"
        >
          <Scissors size={16} />
        </Link>
      </Tip>
      <div className="min-w-0 flex-1">
        <Title name={project?.name ?? ''} />
        <p className="truncate px-1 text-xs leading-tight text-[var(--muted)]">
          {project
            ? `${windowSize(project).width} × ${windowSize(project).height} px · ${project.layers.length} ${project.layers.length === 1 ? 'layer' : 'layers'}`
            : ''}
        </p>
      </div>
      <nav aria-label="Stages" className="flex items-center">
        {STAGES.map(([id, name], i) => (
          <span key={id} className="flex items-center">
            {i > 0 && (
              <span aria-hidden className="px-1 text-[var(--muted)]">
                ›
              </span>
            )}
            <button
              type="button"
              aria-current={stage === id ? 'step' : undefined}
              onClick={() => goToStage(id)}
              className="rounded-lg px-3 py-1.5 text-[13px] font-semibold hover:bg-[var(--hover)] aria-[current]:bg-[var(--ink)] aria-[current]:text-[var(--panel)]"
            >
              {name}
            </button>
          </span>
        ))}
      </nav>
      <div className="flex flex-1 items-center justify-end gap-0.5">
        <Saving />
        <IconButton label="Undo" keys="Ctrl+Z" why={canUndo ? undefined : 'Nothing to undo.'} onClick={() => undoAct()}>
          <Undo2 size={17} />
        </IconButton>
        <IconButton
          label="Redo"
          keys="Ctrl+Shift+Z"
          why={canRedo ? undefined : 'Nothing to redo.'}
          onClick={() => redoAct()}
        >
          <Redo2 size={17} />
        </IconButton>
        <HistoryList />
        <IconButton label="Commands" keys="Ctrl+K" onClick={openCommands}>
          <Search size={17} />
        </IconButton>
        <IconButton label="Keys and gestures" keys="?" onClick={openHelp}>
          <CircleHelp size={17} />
        </IconButton>
      </div>
    </header>
  )
}

function Title({ name }: { name: string }) {
  const [typed, setTyped] = useState<string | null>(null)
  const settle = () => {
    const next = typed?.trim()
    setTyped(null)
    if (next && next !== name) act(`Rename to ${next}`, renameProject(next))
  }
  return (
    <input
      aria-label="Project name"
      value={typed ?? name}
      maxLength={LIMITS.name}
      spellCheck={false}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={settle}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') {
          setTyped(null)
          event.currentTarget.blur()
        }
      }}
      className="w-full max-w-72 truncate rounded border border-transparent bg-transparent px-1 text-sm leading-tight font-semibold hover:border-[var(--line)] focus:border-[var(--line-strong)]"
    />
  )
}

/** Acts listed at a time. */
const ROWS = 200

/** Every act, branches kept: the path to what is shown, and what was left behind by doing something else. */
function HistoryList() {
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
          align="end"
          sideOffset={6}
          className="z-40 max-h-[70vh] w-72 overflow-y-auto rounded-xl border border-[var(--line)] bg-[var(--panel)] p-1.5 shadow-lg"
        >
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
              <span className="shrink-0 text-[11px] text-[var(--muted)]">
                {words[kind(id)] || new Date(at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })}
              </span>
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
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
