'use client'
/** Rulers along the picture's upper and left side, in px of what is shown; guides are dragged out of them. */
import { type PointerEvent, useRef, useSyncExternalStore } from 'react'
import { apply, inverse } from '@/core/raster/affine'
import { addGuide } from '@/document/edits'
import { type Guide } from '@/document/records'
import { RULER_PX } from '@/ui/canvas/ruler'
import { onEscape } from '@/ui/primitives/takenBack'
import { type Viewer } from '@/ui/canvas/viewer'
import { abandon, get, preview, settle, shownProject, useBench } from '@/ui/store/bench'
import { partInView } from '@/ui/store/frame'

/** CSS px. */
const /** Between figures, at least. */ APART = 64
/** Parts between two figures, by the figure they stand apart. */
const parts = (step: number): number => (/^2/.test(String(step)) ? 4 : 5)
/** 1, 2 or 5 times a power of ten: the least that keeps figures apart. */
export function stepOf(scale: number): number {
  const least = Math.max(1, APART / scale),
    power = 10 ** Math.floor(Math.log10(least))
  return [1, 2, 5, 10].map((m) => m * power).find((step) => step >= least)!
}

export function Rulers({ viewer }: { viewer: Viewer }) {
  const view = useSyncExternalStore(viewer.subscribe, viewer.getView),
    pointer = useBench((state) => state.pointer)
  const { cssScale } = viewer
  return (
    <>
      <Ruler axis="x" from={view.left} scale={cssScale} pointer={pointer?.[0]} viewer={viewer} />
      <Ruler axis="y" from={view.top} scale={cssScale} pointer={pointer?.[1]} viewer={viewer} />
      <div
        aria-hidden
        className="absolute top-0 left-0 border-r border-b border-[var(--line)] bg-[var(--panel)]"
        style={{ width: RULER_PX, height: RULER_PX }}
      />
    </>
  )
}

function Ruler({
  axis,
  from,
  scale,
  pointer,
  viewer,
}: {
  axis: 'x' | 'y'
  /** The canvas px at the surface's edge. */
  from: number
  /** CSS px for one canvas px. */
  scale: number
  pointer: number | undefined
  viewer: Viewer
}) {
  const drag = useRef<{ id: string; letGo: () => void } | null>(null)
  const across = axis === 'x'
  // Down from the upper ruler comes a guide across, and the other way round.
  const made: Guide['axis'] = across ? 'y' : 'x'
  const length = across ? window.innerWidth : window.innerHeight,
    step = stepOf(scale),
    fine = step / parts(step),
    first = Math.floor((from + RULER_PX / scale) / fine),
    last = Math.ceil((from + length / scale) / fine)
  const ticks = Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => (first + i) * fine)

  const placeOf = (event: PointerEvent): number => {
    const box = event.currentTarget.parentElement!.getBoundingClientRect(),
      shown = viewer.toCanvas(event.clientX - box.left, event.clientY - box.top),
      [x, y] = apply(inverse(partInView(get(), shownProject(get())!).fromCanvas), ...shown)
    return Math.round(made === 'x' ? x : y)
  }
  return (
    <svg
      data-ruler={axis}
      role="img"
      aria-label={`Ruler ${across ? 'across' : 'down'}, px. Drag a guide out of it.`}
      className={`absolute touch-none bg-[var(--panel)] ${across ? 'top-0 right-0 cursor-ns-resize border-b' : 'bottom-0 left-0 cursor-ew-resize border-r'} border-[var(--line)]`}
      style={across ? { left: 0, height: RULER_PX, width: '100%' } : { top: 0, width: RULER_PX, height: '100%' }}
      onPointerDown={(event) => {
        event.stopPropagation()
        if (event.button !== 0) return
        event.currentTarget.setPointerCapture(event.pointerId)
        drag.current = {
          id: crypto.randomUUID(),
          letGo: onEscape(() => {
            drag.current = null
            abandon()
          }),
        }
      }}
      onPointerMove={(event) => {
        if (drag.current) preview(addGuide(drag.current.id, made, placeOf(event)))
      }}
      onPointerUp={(event) => {
        if (!drag.current) return
        drag.current.letGo()
        drag.current = null
        const box = event.currentTarget.getBoundingClientRect(),
          out = across ? event.clientY > box.bottom : event.clientX > box.right
        // Let go on the ruler it was dragged from, none is meant.
        if (out) settle(across ? 'Guide across' : 'Guide down')
        else abandon()
      }}
      onPointerCancel={() => {
        drag.current?.letGo()
        drag.current = null
        abandon()
      }}
    >
      <g stroke="var(--muted)" strokeWidth={1} shapeRendering="crispEdges">
        {ticks.map((at) => {
          const place = Math.round((at - from) * scale) + 0.5,
            whole = Math.abs(at / step - Math.round(at / step)) < 1e-6,
            inner = RULER_PX - (whole ? RULER_PX : 5)
          return across ? (
            <line key={at} x1={place} x2={place} y1={inner} y2={RULER_PX} />
          ) : (
            <line key={at} y1={place} y2={place} x1={inner} x2={RULER_PX} />
          )
        })}
      </g>
      <g fill="var(--muted)" fontSize={10} fontFamily="'JetBrains Mono Variable', monospace">
        {ticks
          .filter((at) => Math.abs(at / step - Math.round(at / step)) < 1e-6)
          .map((at) => {
            const place = (at - from) * scale
            return across ? (
              <text key={at} x={place + 3} y={10}>
                {Math.round(at)}
              </text>
            ) : (
              <text key={at} transform={`translate(10 ${place + 3}) rotate(90)`}>
                {Math.round(at)}
              </text>
            )
          })}
      </g>
      {pointer !== undefined && (
        <line
          stroke="var(--accent)"
          strokeWidth={1}
          shapeRendering="crispEdges"
          {...(across
            ? { x1: (pointer - from) * scale, x2: (pointer - from) * scale, y1: 0, y2: RULER_PX }
            : { y1: (pointer - from) * scale, y2: (pointer - from) * scale, x1: 0, x2: RULER_PX })}
        />
      )}
    </svg>
  )
}
