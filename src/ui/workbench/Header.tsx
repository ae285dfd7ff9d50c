'use client'
import { CircleHelp, Redo2, Scissors, Search, Undo2 } from 'lucide-react'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { renameProject } from '@/document/edits'
import { LIMITS } from '@/document/limits'
import { windowSize } from '@/document/window'
import { IconButton, Tip } from '@/ui/primitives/Button'
import { later } from '@/ui/primitives/later'
import { useTyping } from '@/ui/primitives/useTyping'
import { act, goToStage, redoAct, set, shownProject, undoAct, useBench } from '@/ui/store/bench'
import { keyHint, useOwnKeys } from '@/ui/store/ownKeys'
import { STAGES } from './command'
import { Saving } from './Saving'
import { counted } from '@/ui/primitives/counted'

const HistoryList = later(() => import('./HistoryList').then((module) => module.HistoryList))

export function Header() {
  useOwnKeys()
  const router = useRouter(),
    comeNear = () => router.prefetch('/')
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
          prefetch={false} // while a project opens its own pictures come first
          onPointerEnter={comeNear}
          onFocus={comeNear}
          aria-label="All projects"
          className="grid size-7 shrink-0 place-items-center rounded-lg bg-[var(--accent)] text-white"
        >
          <Scissors size={16} />
        </Link>
      </Tip>
      <div className="min-w-0 flex-1">
        <h1 className="sr-only">{project?.name}</h1>
        <Title name={project?.name ?? ''} />
        <p className="truncate px-1 text-xs leading-tight text-[var(--muted)]">
          {project
            ? `${windowSize(project).width} × ${windowSize(project).height} px · ${counted(project.layers.length, 'layer')}`
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
        <IconButton
          label="Undo"
          keys={keyHint('undo', 'Ctrl+z')}
          why={canUndo ? undefined : 'Nothing to undo.'}
          onClick={() => undoAct()}
        >
          <Undo2 size={17} />
        </IconButton>
        <IconButton
          label="Redo"
          keys={keyHint('redo', 'Ctrl+Shift+z')}
          why={canRedo ? undefined : 'Nothing to redo.'}
          onClick={() => redoAct()}
        >
          <Redo2 size={17} />
        </IconButton>
        <HistoryList />
        <IconButton label="Commands" keys={keyHint('commands', 'Ctrl+k')} onClick={() => set({ dialog: 'commands' })}>
          <Search size={17} />
        </IconButton>
        <IconButton label="Keys and gestures" keys={keyHint('help', '?')} onClick={() => set({ dialog: 'help' })}>
          <CircleHelp size={17} />
        </IconButton>
      </div>
    </header>
  )
}

function Title({ name }: { name: string }) {
  const { field } = useTyping(name, (typed) => {
    const next = typed.trim()
    if (next && next !== name) act(`Rename to ${next}`, renameProject(next))
  })
  return (
    <input
      aria-label="Project name"
      {...field}
      maxLength={LIMITS.name}
      className="w-full max-w-72 truncate rounded border border-transparent bg-transparent px-1 text-sm leading-tight font-semibold hover:border-[var(--line)] focus:border-[var(--line-strong)]"
    />
  )
}
