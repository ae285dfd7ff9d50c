'use client'
/** The workbench: header, stage column, canvas, steps and layers, status line; keys, commands and help. */
import { Layers, PanelLeft } from 'lucide-react'
import { Tooltip } from 'radix-ui'
import { type CSSProperties, type RefObject, useCallback, useDeferredValue, useEffect, useRef, useState } from 'react'
import { beginThreads } from '@/engine/page/threads'
import { openedCover } from '@/ui/store/early'
import { abandon, get, set, shownProject, useBench } from '@/ui/store/bench'
import { closeBench, openBench } from '@/ui/store/sync'
import { giveHandle } from '@/ui/store/handle'
import { type Rendering, startRendering } from '@/ui/store/rendering'
import { partInView } from '@/ui/store/frame'
import { CanvasView } from './canvas/CanvasView'
import { RULER_PX } from '@/ui/canvas/ruler'
import { type Viewer } from '@/ui/canvas/viewer'
import { commandFor, keyName } from './commandKeys'
import { FromOutside } from './FromOutside'
import { Header } from './Header'
import { Inspector } from './inspector/Inspector'
import { ListPanel } from './list/ListPanel'
import { later, loadTheRest } from '../primitives/later'
import { showsFirstSteps } from './firstVisit'
import { isTyping } from './keys'
import { StageColumn } from './StageColumn'
import { StatusLine } from './StatusLine'
import { Failed } from '@/ui/primitives/Failed'
import { Notes } from '@/ui/primitives/Notes'
import { TabTitle } from '@/ui/primitives/TabTitle'
import { Abandon } from '@/ui/primitives/useHeld'

const FirstSteps = later(() => import('./FirstSteps').then((module) => module.FirstSteps))
const ViewBar = later(() => import('./ViewBar').then((module) => module.ViewBar))
const MaskSign = later(() => import('./canvas/MaskSign').then((module) => module.MaskSign))
const MakeMenuHere = later(() => import('./list/MakeMenu').then((module) => module.MakeMenuHere))
const SkyDock = later(() => import('../match/SkyDock').then((module) => module.SkyDock))
const MatchViews = later(() => import('../match/MatchViews').then((module) => module.MatchViews))
const RibbonPanel = later(() => import('../edge/RibbonPanel').then((module) => module.RibbonPanel))
const CommandList = later(() => import('./CommandList').then((module) => module.CommandList))
const Help = later(() => import('./Help').then((module) => module.Help))

export function Workbench({ id }: { id: string }) {
  const now = useBench((state) => (state.id === id ? state.phase : 'loading')),
    // The workbench is made in slices, between which the page answers.
    before = useDeferredValue(now, 'loading'),
    phase = now === 'ready' ? before : now,
    problem = useBench((state) => state.problem),
    name = useBench((state) => (state.id === id ? state.project?.name : undefined))
  useEffect(() => {
    giveHandle()
    beginThreads()
    void openBench(id)
    const stop = loadTheRest()
    return () => {
      stop()
      closeBench()
    }
  }, [id])
  return (
    <Abandon.Provider value={abandon}>
      <Tooltip.Provider>
        {phase !== 'failed' && <TabTitle shown={name} />}
        {phase === 'ready' ? (
          <Bench key={id} />
        ) : phase === 'loading' ? (
          <main className="grid h-screen place-items-center p-8">
            <p className="text-[var(--muted)]" role="status">
              Opening the project …
            </p>
          </main>
        ) : (
          <Failed
            title="This project cannot be opened now"
            problem={problem}
            again={() => void openBench(id)}
            back={['/', 'All projects']}
          />
        )}
        <Notes beside />
      </Tooltip.Provider>
    </Abandon.Provider>
  )
}

function Bench() {
  const viewer = useRef<Viewer | null>(null),
    rendering = useRef<Rendering | null>(null)
  const bare = useBench((state) => state.bare),
    rulers = useBench((state) => state.rulers),
    firstSteps = useBench((state) => state.firstSteps && showsFirstSteps(state.id))
  const [drawer, setDrawer] = useState<'left' | 'right' | null>(null)

  /** The engine starts with the canvas and ends with it. */
  const connect = useCallback((made: Viewer) => {
    const project = shownProject(get())
    if (project) made.setCanvas(partInView(get(), project).size)
    const started = startRendering({
      layersChanged: (epoch, canvas, partly) => {
        made.setCanvas(canvas)
        made.layersChanged(epoch, partly)
      },
      matteChanged: () => made.matteChanged(),
      making: (something) => made.setMaking(something),
    })
    rendering.current = started
    let gone = false
    void openedCover(get().id).then((cover) => {
      if (gone) cover?.close()
      else if (cover) made.setCover(cover)
    })
    return () => {
      gone = true
      started.close()
      rendering.current = null
    }
  }, [])

  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      if (event.defaultPrevented || isTyping(event.target) || document.querySelector('[role=dialog],[role=menu]'))
        return // a dialog that Escape has just closed is gone by now
      if (
        (event.key === 'Enter' || event.key === ' ') &&
        event.target instanceof Element &&
        event.target.closest('button, a, summary, label')
      )
        return // they press the control
      if (keyName(event) === 'Ctrl+c' && String(getSelection())) return // what is marked on the page is copied
      const command = commandFor(event)
      if (!command || !viewer.current) return
      // Arrow keys move what is worked on where the picture has the focus, or nothing has.
      const on = event.target as Element
      if (command.id.startsWith('nudge') && on !== document.body && !on.closest('[data-canvas]')) return
      event.preventDefault()
      if (command.release) {
        if (event.repeat) return
        held.set(event.code, command.release)
      }
      command.run(viewer.current)
    }
    /** What ends when a key is let go. */
    const held = new Map<string, () => void>()
    const up = (event: KeyboardEvent) => {
      held.get(event.code)?.()
      held.delete(event.code)
    }
    const leave = () => {
      for (const release of held.values()) release()
      held.clear()
    }
    window.addEventListener('keydown', down)
    window.addEventListener('keyup', up)
    window.addEventListener('blur', leave)
    return () => {
      window.removeEventListener('keydown', down)
      window.removeEventListener('keyup', up)
      window.removeEventListener('blur', leave)
    }
  }, [])

  const side = (which: 'left' | 'right') =>
    `${bare ? 'hidden' : ''} max-[1099px]:absolute max-[1099px]:inset-y-0 max-[1099px]:z-20 max-[1099px]:shadow-xl ${which === 'left' ? 'max-[1099px]:left-0' : 'max-[1099px]:right-0'} ${drawer === which ? '' : 'max-[1099px]:hidden'}`
  return (
    <div className="flex h-screen flex-col overflow-hidden">
      {!bare && <Header />}
      <div className="relative flex min-h-0 flex-1">
        <aside
          aria-label="Stage"
          className={`w-[212px] shrink-0 border-r border-[var(--line)] bg-[var(--panel)] ${side('left')}`}
        >
          <StageColumn />
        </aside>
        <main className="flex min-w-0 flex-1 flex-col">
          {firstSteps && !bare && (
            <div className="h-10 shrink-0">
              <FirstSteps />
            </div>
          )}
          <div className="relative min-h-0 flex-1" style={{ '--ruler': `${rulers ? RULER_PX : 0}px` } as CSSProperties}>
            <div className="absolute inset-0" data-drop-place>
              <CanvasView viewerRef={viewer} rendering={rendering} connect={connect} />
            </div>
            <FromOutside />
            <MaskSign />
            {!bare && <Views />}
            <div
              className={`absolute bottom-3 flex w-full justify-between px-3 min-[1100px]:hidden ${bare ? 'hidden' : ''} pointer-events-none *:pointer-events-auto`}
            >
              <button
                type="button"
                aria-expanded={drawer === 'left'}
                onClick={() => setDrawer(drawer === 'left' ? null : 'left')}
                className="drawer-button"
              >
                <PanelLeft size={16} />
                Stage
              </button>
              <button
                type="button"
                aria-expanded={drawer === 'right'}
                onClick={() => setDrawer(drawer === 'right' ? null : 'right')}
                className="drawer-button"
              >
                <Layers size={16} />
                Layers
              </button>
            </div>
          </div>
          {!bare && <Dock viewer={viewer} />}
        </main>
        <aside
          aria-label="Layers and values"
          className={`flex w-[298px] shrink-0 flex-col border-l border-[var(--line)] bg-[var(--panel)] ${side('right')}`}
        >
          <ListPanel rendering={rendering} />
          <Inspector />
        </aside>
      </div>
      {!bare && (
        <StatusLine
          viewer={() => viewer.current}
          cancel={() => {
            rendering.current?.engine.cancelAll()
            set({ progress: null })
          }}
        />
      )}
      <MakeMenuHere />
      <Dialogs viewer={viewer} />
    </div>
  )
}

// What depends on the stage or a dialog is made anew by itself, without the whole workbench.

/** How the picture is shown, over it. */
function Views() {
  const stage = useBench((state) => state.stage)
  return stage === 'select' || stage === 'edge' ? <ViewBar /> : stage === 'match' ? <MatchViews /> : null
}

/** What a stage has below the picture. */
function Dock({ viewer }: { viewer: RefObject<Viewer | null> }) {
  const stage = useBench((state) => state.stage)
  return stage === 'edge' ? <RibbonPanel viewer={viewer} /> : stage === 'match' ? <SkyDock /> : null
}

function Dialogs({ viewer }: { viewer: RefObject<Viewer | null> }) {
  const dialog = useBench((state) => state.dialog)
  return (
    <>
      <CommandList
        open={dialog === 'commands'}
        onOpenChange={(open) => set({ dialog: open ? 'commands' : null })}
        run={(command) => {
          set({ dialog: null })
          if (viewer.current) command.run(viewer.current)
        }}
      />
      <Help open={dialog === 'help'} onOpenChange={(open) => set({ dialog: open ? 'help' : null })} />
    </>
  )
}
