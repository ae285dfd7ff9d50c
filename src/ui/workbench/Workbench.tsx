'use client'
/** The workbench: header, stage column, canvas, steps and layers, status line; keys, commands and help. */
import { Layers, PanelLeft } from 'lucide-react'
import Link from 'next/link'
import { Tooltip } from 'radix-ui'
import { useCallback, useEffect, useRef, useState } from 'react'
import { Toaster } from 'sonner'
import { get, set, shownProject, useBench } from '@/ui/store/bench'
import { closeBench, openBench } from '@/ui/store/sync'
import { giveHandle } from '@/ui/store/handle'
import { type Rendering, startRendering } from '@/ui/store/rendering'
import { partInView } from '@/ui/store/frame'
import { CanvasView } from './canvas/CanvasView'
import { MaskSign } from './canvas/MaskSign'
import { type Viewer } from '@/ui/canvas/viewer'
import { commandFor, keyName } from './commandKeys'
import { Header } from './Header'
import { Inspector } from './inspector/Inspector'
import { ListPanel } from './list/ListPanel'
import { MakeMenuHere } from './list/MakeMenu'
import { later, loadTheRest } from '../primitives/later'
import { isTyping, setPanKey, singleKeys } from './keys'
import { StageColumn } from './StageColumn'
import { StatusLine } from './StatusLine'
import { ViewBar } from './ViewBar'

const FromOutside = later(() => import('./FromOutside').then((module) => module.FromOutside))
const SkyDock = later(() => import('../match/SkyDock').then((module) => module.SkyDock))
const MatchViews = later(() => import('../match/MatchViews').then((module) => module.MatchViews))
const RibbonPanel = later(() => import('../edge/RibbonPanel').then((module) => module.RibbonPanel))
const CommandList = later(() => import('./CommandList').then((module) => module.CommandList))
const Help = later(() => import('./Help').then((module) => module.Help))

export function Workbench({ id }: { id: string }) {
  const phase = useBench((state) => (state.id === id ? state.phase : 'loading')),
    problem = useBench((state) => state.problem)
  useEffect(() => {
    giveHandle()
    void openBench(id)
    const stop = loadTheRest()
    return () => {
      stop()
      closeBench()
    }
  }, [id])
  return (
    <Tooltip.Provider>
      {phase === 'ready' ? (
        <Bench key={id} />
      ) : (
        <main className="grid h-screen place-items-center p-8">
          {phase === 'loading' ? (
            <p className="text-[var(--muted)]" role="status">
              Opening the project …
            </p>
          ) : (
            <div className="max-w-md space-y-4 text-center" role="alert">
              <h1 className="text-lg font-semibold">This project cannot be opened now</h1>
              <p className="text-[var(--muted)]">{problem}</p>
              <p className="flex justify-center gap-3">
                <button
                  type="button"
                  className="rounded-lg bg-[var(--ink)] px-4 py-2 text-sm font-semibold text-[var(--panel)]"
                  onClick={() => {
                    void openBench(id)
                  }}
                >
                  Try again
                </button>
                <Link href="/" className="rounded-lg border border-[var(--line)] px-4 py-2 text-sm font-semibold">
                  All projects
                </Link>
              </p>
            </div>
          )}
        </main>
      )}
      <Toaster
        position="bottom-right"
        offset={{ bottom: 40, right: 312 }}
        theme="system"
        closeButton
        toastOptions={{ style: { fontFamily: "'Hanken Grotesk Variable', sans-serif", fontSize: 13.5 } }}
      />
    </Tooltip.Provider>
  )
}

function Bench() {
  const viewer = useRef<Viewer | null>(null),
    rendering = useRef<Rendering | null>(null)
  const bare = useBench((state) => state.bare),
    stage = useBench((state) => state.stage)
  const [commands, setCommands] = useState(false),
    [help, setHelp] = useState(false),
    [drawer, setDrawer] = useState<'left' | 'right' | null>(null)

  /** The engine starts with the canvas and ends with it. */
  const connect = useCallback((made: Viewer) => {
    const project = shownProject(get())
    if (project) made.setCanvas(partInView(get(), project).size)
    const started = startRendering({
      layersChanged: (epoch, canvas) => {
        made.setCanvas(canvas)
        made.layersChanged(epoch)
      },
      matteChanged: () => made.matteChanged(),
      making: (something) => made.setMaking(something),
    })
    rendering.current = started
    return () => {
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
      if (event.key === ' ') {
        event.preventDefault()
        setPanKey(true)
        return
      }
      if (event.key === 'b' && !event.ctrlKey && !event.metaKey && singleKeys()) {
        set({ before: true })
        return
      }
      if (keyName(event) === 'Ctrl+k') {
        event.preventDefault()
        setCommands(true)
        return
      }
      if (event.key === '?' && singleKeys()) {
        setHelp(true)
        return
      }
      if (keyName(event) === 'Ctrl+c' && String(getSelection())) return // what is marked on the page is copied
      const command = commandFor(event)
      if (command && viewer.current) {
        event.preventDefault()
        command.run(viewer.current)
      }
    }
    const up = (event: KeyboardEvent) => {
      if (event.key === ' ') setPanKey(false)
      if (event.key === 'b') set({ before: false })
    }
    const leave = () => {
      setPanKey(false)
      set({ before: false })
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
      {!bare && <Header openCommands={() => setCommands(true)} openHelp={() => setHelp(true)} />}
      <div className="relative flex min-h-0 flex-1">
        <aside
          aria-label="Stage"
          className={`w-[212px] shrink-0 border-r border-[var(--line)] bg-[var(--panel)] ${side('left')}`}
        >
          <StageColumn />
        </aside>
        <main className="flex min-w-0 flex-1 flex-col">
          <div className="relative min-h-0 flex-1">
            <div className="absolute inset-0" data-drop-place>
              <CanvasView viewerRef={viewer} rendering={rendering} connect={connect} />
            </div>
            <FromOutside />
            <MaskSign />
            {(stage === 'select' || stage === 'edge') && !bare && <ViewBar />}
            {stage === 'match' && !bare && <MatchViews />}
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
          {stage === 'edge' && !bare && <RibbonPanel viewer={viewer} />}
          {stage === 'match' && !bare && <SkyDock />}
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
          fit={() => viewer.current?.fit()}
          cancel={() => {
            rendering.current?.engine.cancelAll()
            set({ progress: null })
          }}
        />
      )}
      <MakeMenuHere />
      <CommandList
        open={commands}
        onOpenChange={setCommands}
        run={(command) => {
          setCommands(false)
          if (viewer.current) command.run(viewer.current)
        }}
      />
      <Help open={help} onOpenChange={setHelp} />
    </div>
  )
}
