'use client'
/** The picture in the middle: its surfaces, the handles over it, and what pointers do there. */
import { type PointerEvent as ReactPointerEvent, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react'
import { apply, compose, type Affine, inverse, meanScale, scaling, translation } from '@/core/raster/affine'
import { type CombineOp } from '@/core/raster/coverage'
import { type FindingStep, isFinding } from '@/core/select/registry'
import { homeToCanvas, layerById, recipeAt } from '@/document/edits'
import { type OverlayStyle } from '@/engine/page/protocol'
import { type Drag } from '@/ui/finders/finder'
import { finderPage, pageOfStep } from '@/ui/finders/registry'
import { abandon, type BenchState, get, set, shownProject, useBench } from '@/ui/store/bench'
import { type Rendering } from '@/ui/store/rendering'
import { isPanKeyHeld } from '../keys'
import { PlaceHandles } from './PlaceHandles'
import { pressLayer } from './pressLayer'
import { Viewer } from './viewer'

const WHEEL_STEP = 1.0016
/** Fingers that move less than this (CSS px) between each other pan only. */
const PINCH_PX = 6

export const tintColour = (hue: number): [number, number, number] => {
  const f = (n: number) => { const k = (n + hue / 30) % 12; return Math.round(255 * (0.5 - 0.45 * Math.max(-1, Math.min(k - 3, 9 - k, 1)))) }
  return [f(0), f(8), f(4)]
}

/** The overlay in force: selections show in Select; other stages show the picture as it will be. */
function overlayOf({ stage, view, before, backing, tintHue, rarestHue, tintOpacity, dim, result }: BenchState): OverlayStyle {
  const mode = stage !== 'select' || before || (!result && view !== 'matte') ? 'plain' : view
  return { mode, backing, tint: tintColour(tintHue ?? rarestHue), tintOpacity, dim }
}

export function CanvasView({ viewerRef, rendering, connect }: { viewerRef: React.RefObject<Viewer | null>; rendering: React.RefObject<Rendering | null>; connect: (viewer: Viewer) => () => void }) {
  const holder = useRef<HTMLDivElement>(null), picture = useRef<HTMLCanvasElement>(null), outline = useRef<HTMLCanvasElement>(null)
  const [viewer, setViewer] = useState<Viewer | null>(null)
  const style = useBench((state) => JSON.stringify(overlayOf(state)))

  useEffect(() => {
    const made = new Viewer(picture.current!, outline.current!, () => rendering.current?.engine ?? null)
    viewerRef.current = made
    setViewer(made)
    const disconnect = connect(made)
    const measure = () => { const box = holder.current!.getBoundingClientRect(); made.resize(box.width, box.height, devicePixelRatio) }
    const observer = new ResizeObserver(measure)
    observer.observe(holder.current!)
    const unsubscribe = made.subscribe(() => set({ scale: made.view.scale }))
    const wheel = (event: WheelEvent) => { event.preventDefault(); const [x, y] = place(event); made.zoomBy(WHEEL_STEP ** -(event.deltaMode ? event.deltaY * 33 : event.deltaY), x, y) }
    const element = holder.current!
    element.addEventListener('wheel', wheel, { passive: false })
    return () => { element.removeEventListener('wheel', wheel); observer.disconnect(); unsubscribe(); disconnect(); made.close(); viewerRef.current = null }
  }, [viewerRef, rendering, connect])

  useEffect(() => { viewer?.setOverlay(JSON.parse(style) as OverlayStyle) }, [viewer, style])

  const place = (event: { clientX: number; clientY: number }): [number, number] => { const box = holder.current!.getBoundingClientRect(); return [event.clientX - box.left, event.clientY - box.top] }

  // ---- pointers: one draws, two pinch and pan, the middle button or the space key pans
  const drag = useRef<{ pointer: number; drag: Drag; toSteps: Affine } | null>(null)
  const panning = useRef<{ pointer: number; at: [number, number] } | null>(null)
  const touches = useRef(new Map<number, [number, number]>())
  const reading = useRef(false)

  const readPixel = async (x: number, y: number) => {
    if (reading.current || !rendering.current) return
    reading.current = true
    try { const pixel = await rendering.current.engine.pixel(Math.floor(x), Math.floor(y)); set({ pixel }) } finally { reading.current = false }
  }

  const down = (event: ReactPointerEvent<HTMLDivElement>) => {
    if (!viewer) return
    const at = place(event)
    event.currentTarget.setPointerCapture(event.pointerId)
    if (event.pointerType === 'touch') {
      touches.current.set(event.pointerId, at)
      if (touches.current.size === 2) { drag.current = null; abandon(); return }
    }
    if (event.button === 1 || isPanKeyHeld()) { event.preventDefault(); panning.current = { pointer: event.pointerId, at }; return }
    if (event.button !== 0 || drag.current) return
    const state = get(), project = shownProject(state)
    if (!project) return
    if (state.stage === 'select') {
      const page = finderPage(state.finder), recipe = recipeAt(project, state.home)
      if (!recipe) return
      const toSteps = inverse(homeToCanvas(project, state.home))
      const steps = recipe.steps.filter(isFinding)
      const open = steps.find((step) => step.id === state.openStep && step.kind === page.kind)
      const op: CombineOp = event.shiftKey && event.altKey ? 'intersect' : event.altKey ? 'subtract' : 'add'
      const place = viewer.toCanvas(...at)
      const readPixel = async () => (await rendering.current?.engine.pixel(Math.floor(place[0]), Math.floor(place[1]))) ?? null
      const press = { home: state.home, readPixel, point: apply(toSteps, ...place), screen: at, scale: viewer.cssScale / meanScale(toSteps), op, further: event.shiftKey || event.altKey, first: steps.length === 0 }
      drag.current = { pointer: event.pointerId, drag: page.press(press, open), toSteps }
    } else if (state.stage === 'compose') {
      const layer = layerById(project, project.activeLayer)
      if (layer) drag.current = { pointer: event.pointerId, drag: pressLayer(layer, viewer.toCanvas(...at)), toSteps: [1, 0, 0, 1, 0, 0] }
    } else panning.current = { pointer: event.pointerId, at }
  }

  const move = (event: ReactPointerEvent<HTMLDivElement>) => {
    if (!viewer) return
    const at = place(event)
    const point = viewer.toCanvas(...at)
    set({ pointer: point })
    void readPixel(...point)
    const before = touches.current.get(event.pointerId)
    if (before && touches.current.size === 2) {
      const [other] = [...touches.current].filter(([id]) => id !== event.pointerId).map(([, p]) => p)
      const was = Math.hypot(before[0] - other[0], before[1] - other[1]), is = Math.hypot(at[0] - other[0], at[1] - other[1])
      viewer.panBy((at[0] - before[0]) / 2, (at[1] - before[1]) / 2)
      if (was > PINCH_PX && is > PINCH_PX) viewer.zoomBy(is / was, (at[0] + other[0]) / 2, (at[1] + other[1]) / 2)
      touches.current.set(event.pointerId, at)
      return
    }
    if (before) touches.current.set(event.pointerId, at)
    if (panning.current?.pointer === event.pointerId) { viewer.panBy(at[0] - panning.current.at[0], at[1] - panning.current.at[1]); panning.current.at = at; return }
    if (drag.current?.pointer === event.pointerId) drag.current.drag.move(apply(drag.current.toSteps, ...point), { shift: event.shiftKey, alt: event.altKey }, at)
  }

  const up = (event: ReactPointerEvent<HTMLDivElement>) => {
    touches.current.delete(event.pointerId)
    if (panning.current?.pointer === event.pointerId) panning.current = null
    if (drag.current?.pointer === event.pointerId) { const ended = drag.current; drag.current = null; if (event.type === 'pointerup') ended.drag.end(); else abandon() }
  }

  return (
    <div ref={holder} tabIndex={0} role="application" aria-label="The picture. Plus and minus zoom, 0 fits; the steps and layers beside it can be used by keyboard."
      className="relative size-full touch-none overflow-hidden bg-[#8a8a8a] outline-none focus-visible:ring-2 focus-visible:ring-inset focus-visible:ring-[var(--accent)]"
      data-canvas onPointerDown={down} onPointerMove={move} onPointerUp={up} onPointerCancel={up} onPointerLeave={() => set({ pointer: null, pixel: null })} onContextMenu={(event) => event.preventDefault()}>
      <canvas ref={picture} className="absolute inset-0 size-full" data-surface="picture" aria-hidden />
      <canvas ref={outline} className="pointer-events-none absolute inset-0 size-full" data-surface="outline" aria-hidden />
      {viewer && <HandlesOver viewer={viewer} />}
    </div>
  )
}

/** A finder whose handles follow the pointer shows them before there is a step, too. */
const NO_STEP = {} as never

/** The open step's handles, or the active layer's while composing. */
function HandlesOver({ viewer }: { viewer: Viewer }) {
  const view = useSyncExternalStore(viewer.subscribe, viewer.getView)
  const project = useBench(shownProject), stage = useBench((state) => state.stage), home = useBench((state) => state.home), openStep = useBench((state) => state.openStep), before = useBench((state) => state.before)
  const finder = useBench((state) => finderPage(state.finder))
  const pointer = useBench((state) => (state.drawing || finderPage(state.finder).followsPointer ? state.pointer : null))
  const toCanvas = useMemo(() => (project ? homeToCanvas(project, home) : null), [project, home])
  if (!project || !toCanvas || before) return null
  const map = compose(scaling(viewer.cssScale), translation(-view.left, -view.top))
  const recipe = recipeAt(project, home)
  const step = recipe?.steps.find((s): s is FindingStep => s.id === openStep && isFinding(s))
  const page = step && !step.hidden ? pageOfStep(step) : undefined
  const pointerOnScreen = pointer && apply(map, pointer[0], pointer[1])
  const stepsToScreen = compose(map, toCanvas)
  return (
    <svg className="pointer-events-none absolute inset-0 size-full overflow-hidden" data-view={`${view.left} ${view.top} ${viewer.cssScale}`}>
      {stage === 'select' && finder.followsPointer && page?.id !== finder.id && <finder.Handles step={NO_STEP} home={home} toScreen={(x, y) => apply(stepsToScreen, x, y)} fromScreen={(x, y) => apply(inverse(stepsToScreen), x, y)} pointer={pointerOnScreen} />}
      {stage === 'select' && page && <page.Handles step={step as never} home={home} toScreen={(x, y) => apply(stepsToScreen, x, y)} fromScreen={(x, y) => apply(inverse(stepsToScreen), x, y)} pointer={pointerOnScreen} />}
      {stage === 'compose' && <PlaceHandles project={project} map={map} />}
    </svg>
  )
}
