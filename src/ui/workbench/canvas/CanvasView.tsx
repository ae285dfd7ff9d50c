'use client'
/** The picture in the middle: its surfaces, the handles over it, and what pointers do there. */
import { type PointerEvent as ReactPointerEvent, useEffect, useRef, useState } from 'react'
import { apply, compose, type Affine, inverse, meanScale } from '@/core/raster/affine'
import { type CombineOp } from '@/core/raster/coverage'
import { isFinding, type Step } from '@/core/steps/registry'
import { homeToCanvas, recipeAt } from '@/document/edits'
import { type Drag } from '@/ui/finders/finder'
import { finderPage } from '@/ui/finders/registry'
import { nextUse } from '@/ui/finders/nextUse'
import { abandon, get, set, shownProject, useBench } from '@/ui/store/bench'
import { type Rendering } from '@/ui/store/rendering'
import { edgeStroke } from '@/ui/edge/edgeStep'
import { toast } from 'sonner'
import { RULER_PX } from '@/ui/canvas/ruler'
import { stageHands } from '@/ui/canvas/stageHands'
import { onEscape } from '@/ui/primitives/takenBack'
import { handPage } from '@/ui/compose/hands/registry'
import { comparing, partInView } from '@/ui/store/frame'
import { isPanKeyHeld } from '../keys'
import { Viewer } from '@/ui/canvas/viewer'
import { overlayOf } from './overlayStyle'
import { followWheel } from './wheel'
import { HandlesOver } from './HandlesOver'
import { later } from '@/ui/primitives/later'
import { MakingSign } from './MakingSign'
import { useSameOf } from '@/ui/primitives/useSame'

const Rulers = later(() => import('./Rulers').then((module) => module.Rulers))
const Overview = later(() => import('./Overview').then((module) => module.Overview))

/** Fingers that move less than this (CSS px) between each other pan only. */
const PINCH_PX = 6

export function CanvasView({
  viewerRef,
  rendering,
  connect,
}: {
  viewerRef: React.RefObject<Viewer | null>
  rendering: React.RefObject<Rendering | null>
  connect: (viewer: Viewer) => () => void
}) {
  const holder = useRef<HTMLDivElement>(null),
    picture = useRef<HTMLCanvasElement>(null),
    outline = useRef<HTMLCanvasElement>(null)
  const [viewer, setViewer] = useState<Viewer | null>(null)
  const style = useBench(useSameOf(overlayOf))
  const divider = useBench((state) => state.divider),
    crosshair = useBench((state) => state.crosshair),
    rulers = useBench((state) => state.rulers),
    overview = useBench((state) => state.overview)

  useEffect(() => {
    const made = new Viewer(picture.current!, outline.current!, () => rendering.current?.engine ?? null)
    viewerRef.current = made
    setViewer(made)
    const disconnect = connect(made)
    const measure = () => {
      const box = holder.current!.getBoundingClientRect()
      made.resize(box.width, box.height, devicePixelRatio)
    }
    const observer = new ResizeObserver(measure)
    observer.observe(holder.current!)
    const unsubscribe = made.subscribe(() => set({ scale: made.view.scale }))
    const unfollow = followWheel(holder.current!, made, place)
    return () => {
      unfollow()
      observer.disconnect()
      unsubscribe()
      disconnect()
      made.close()
      viewerRef.current = null
    }
  }, [viewerRef, rendering, connect])

  useEffect(() => {
    viewer?.setOverlay(style)
  }, [viewer, style])

  useEffect(() => {
    viewer?.setRuler(rulers ? RULER_PX : 0)
  }, [viewer, rulers])

  const keptBeside = useBench((state) => comparing(state) === 'divider')
  useEffect(() => {
    viewer?.setDivider(keptBeside ? null : divider)
  }, [viewer, divider, keptBeside])

  const place = (event: { clientX: number; clientY: number }): [number, number] => {
    const box = holder.current!.getBoundingClientRect()
    return [event.clientX - box.left, event.clientY - box.top]
  }

  // ---- pointers: one draws, two pinch and pan, the middle button or the space key pans
  const drag = useRef<{ pointer: number; drag: Drag; toSteps: Affine; letGo: () => void } | null>(null)
  const hold = (pointer: number, made: Drag, toSteps: Affine) => {
    const letGo = onEscape(takeBack)
    drag.current = { pointer, drag: made, toSteps, letGo }
  }
  const takeBack = () => {
    const taken = drag.current
    drag.current = null
    taken?.letGo()
    taken?.drag.cancel?.()
    abandon()
  }
  const panning = useRef<{ pointer: number; at: [number, number] } | null>(null)
  const touches = useRef(new Map<number, [number, number]>())

  const down = (event: ReactPointerEvent<HTMLDivElement>) => {
    if (!viewer) return
    const at = place(event)
    event.currentTarget.dataset.pressed = '' // who came by pointer sees no ring when a key is pressed
    event.currentTarget.setPointerCapture(event.pointerId)
    if (event.pointerType === 'touch') {
      touches.current.set(event.pointerId, at)
      if (touches.current.size === 2) {
        takeBack()
        return
      }
    }
    if (event.button === 1 || isPanKeyHeld()) {
      event.preventDefault()
      panning.current = { pointer: event.pointerId, at }
      return
    }
    if (event.button !== 0 || drag.current) return
    const state = get(),
      project = shownProject(state)
    if (!project) return
    if (state.stage === 'select') {
      const page = finderPage(state.finder),
        recipe = recipeAt(project, state.home)
      if (!recipe) return
      const toSteps = inverse(compose(partInView(state, project).fromCanvas, homeToCanvas(project, state.home)))
      const steps = recipe.steps.filter(isFinding)
      const open = steps.find((step) => step.id === state.openStep && step.kind === page.kind)
      const keys = event.shiftKey || event.altKey,
        next = nextUse(state)
      const op: CombineOp = keys
        ? event.shiftKey && event.altKey
          ? 'intersect'
          : event.altKey
            ? 'subtract'
            : 'add'
        : next === 'replace'
          ? 'add'
          : next
      const place = viewer.toCanvas(...at)
      const readPixel = async () =>
        (await rendering.current?.engine.pixel(Math.floor(place[0]), Math.floor(place[1]))) ?? null
      const press = {
        home: state.home,
        readPixel,
        point: apply(toSteps, ...place),
        screen: at,
        scale: viewer.cssScale / meanScale(toSteps),
        op,
        replaces: !keys && next === 'replace',
        further: keys || state.nextOp !== 'replace',
        keys,
        shift: event.shiftKey,
        ...pressureOf(event),
        first: startsAnew(recipe.steps),
      }
      hold(event.pointerId, page.press(press, open), toSteps)
    } else if (state.stage === 'edge') {
      if (!recipeAt(project, state.home)?.steps.length) {
        toast('Nothing is selected yet: there is no edge to work on.')
        return
      }
      const toSteps = inverse(compose(partInView(state, project).fromCanvas, homeToCanvas(project, state.home)))
      hold(
        event.pointerId,
        edgeStroke({
          point: apply(toSteps, ...viewer.toCanvas(...at)),
          scale: viewer.cssScale / meanScale(toSteps),
          shift: event.shiftKey,
          alt: event.altKey,
        }),
        toSteps,
      )
    } else if (state.stage === 'compose' || stageHands[state.stage]) {
      const press = stageHands[state.stage] ?? handPage(state.hand).press,
        toCanvas = inverse(partInView(state, project).fromCanvas),
        shown = viewer.toCanvas(...at)
      const made = press({
        project,
        point: apply(toCanvas, ...shown),
        scale: viewer.cssScale / meanScale(toCanvas),
        shift: event.shiftKey,
        alt: event.altKey,
        ...pressureOf(event),
      })
      if (made) hold(event.pointerId, made, toCanvas)
      else if (state.stage !== 'compose') panning.current = { pointer: event.pointerId, at }
    } else panning.current = { pointer: event.pointerId, at }
  }

  const move = (event: ReactPointerEvent<HTMLDivElement>) => {
    if (!viewer) return
    const at = place(event)
    const point = viewer.toCanvas(...at)
    set({ pointer: point })
    rendering.current?.pixel.read()
    const before = touches.current.get(event.pointerId)
    if (before && touches.current.size === 2) {
      const [other] = [...touches.current].filter(([id]) => id !== event.pointerId).map(([, p]) => p)
      const was = Math.hypot(before[0] - other[0], before[1] - other[1]),
        is = Math.hypot(at[0] - other[0], at[1] - other[1])
      viewer.panBy((at[0] - before[0]) / 2, (at[1] - before[1]) / 2)
      if (was > PINCH_PX && is > PINCH_PX) viewer.zoomBy(is / was, (at[0] + other[0]) / 2, (at[1] + other[1]) / 2)
      touches.current.set(event.pointerId, at)
      return
    }
    if (before) touches.current.set(event.pointerId, at)
    if (panning.current?.pointer === event.pointerId) {
      viewer.panBy(at[0] - panning.current.at[0], at[1] - panning.current.at[1])
      panning.current.at = at
      return
    }
    if (drag.current?.pointer === event.pointerId)
      drag.current.drag.move(
        apply(drag.current.toSteps, ...point),
        { shift: event.shiftKey, alt: event.altKey, free: event.ctrlKey || event.metaKey, ...pressureOf(event) },
        at,
      )
  }

  const up = (event: ReactPointerEvent<HTMLDivElement>) => {
    touches.current.delete(event.pointerId)
    if (panning.current?.pointer === event.pointerId) panning.current = null
    if (drag.current?.pointer === event.pointerId) {
      if (event.type !== 'pointerup') takeBack()
      else {
        const ended = drag.current
        drag.current = null
        ended.letGo()
        ended.drag.end()
      }
    }
  }

  return (
    <div
      ref={holder}
      tabIndex={0}
      role="application"
      aria-label="The picture. Plus and minus zoom, 0 fits; the steps and layers beside it can be used by keyboard."
      className={`relative size-full touch-none overflow-hidden select-none ${crosshair ? 'pointer-cross' : ''} bg-[#8a8a8a]`}
      data-canvas
      onBlur={(event) => delete event.currentTarget.dataset.pressed}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={up}
      onPointerLeave={() => set({ pointer: null, pixel: null })}
      onContextMenu={(event) => {
        event.preventDefault()
        openMakeMenu([event.clientX, event.clientY])
      }}
    >
      <canvas ref={picture} className="absolute inset-0 size-full" data-surface="picture" aria-hidden />
      <canvas
        ref={outline}
        className="pointer-events-none absolute inset-0 size-full"
        data-surface="outline"
        aria-hidden
      />
      {viewer && <HandlesOver viewer={viewer} />}
      <MakingSign />
      {viewer && rulers && <Rulers viewer={viewer} />}
      {viewer && overview && <Overview viewer={viewer} />}
    </div>
  )
}

/** A right click, or the keyboard's menu key: what to make of the selection. */
function openMakeMenu(at: readonly [number, number]): void {
  const { stage, drawing, live } = get()
  if ((stage === 'select' || stage === 'edge') && !drawing && !live) set({ makeAt: at })
}

/** Pens tell how hard they press; mice and fingers do not. */
const pressureOf = (event: ReactPointerEvent): { pressure?: number } =>
  event.pointerType === 'pen' && event.pressure > 0 ? { pressure: event.pressure } : {}

/** True when nothing of the steps selects: the next one then starts the selection, whatever it was to do. */
const startsAnew = (steps: readonly Step[]): boolean =>
  !steps.some((step) => isFinding(step) || step.kind === 'all' || step.kind === 'invert')
