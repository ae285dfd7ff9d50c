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

/** Its parts are made anew by themselves: a stroke that is being drawn changes none of them. */
export function Header() {
  const router = useRouter(),
    comeNear = () => router.prefetch('/')
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
        <NameAndSize />
      </div>
      <Stages />
      <div className="flex flex-1 items-center justify-end gap-0.5">
        <Saving />
        <Commands />
      </div>
    </header>
  )
}

function NameAndSize() {
  const name = useBench((state) => shownProject(state)?.name ?? ''),
    size = useBench((state) => {
      const project = shownProject(state)
      if (!project) return ''
      const { width, height } = windowSize(project)
      return `${width} × ${height} px · ${counted(project.layers.length, 'layer')}`
    })
  return (
    <>
      <h1 className="sr-only">{name}</h1>
      <Title name={name} />
      <p className="truncate px-1 text-xs leading-tight text-[var(--muted)]">{size}</p>
    </>
  )
}

function Stages() {
  const stage = useBench((state) => state.stage)
  return (
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
  )
}

function Commands() {
  useOwnKeys()
  const canUndo = useBench(({ history }) => history.head !== null),
    canRedo = useBench(({ history }) => history.onward.has(history.head ?? ''))
  return (
    <>
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
    </>
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
