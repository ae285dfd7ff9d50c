'use client'
/** The boundary as a strip, to look along and brush on. */
import { type PointerEvent as ReactPointerEvent, type RefObject, useEffect, useRef, useState } from 'react'
import { placeOn } from '@/core/edge/placeOn'
import { type RibbonView } from '@/core/edge/ribbon'
import { type UnrolledEdge } from '@/engine/page/protocol'
import { type Drag } from '@/ui/finders/finder'
import { type BenchState } from '@/ui/store/benchState'
import { abandon, set, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { type Viewer } from '@/ui/canvas/viewer'
import { edgeStroke } from './edgeStep'
import { goTo } from './ribbonPlace'
import { onEscape } from '@/ui/primitives/takenBack'
import { useSameOf } from '@/ui/primitives/useSame'

/** CSS px of the strip, and of the line under it. */
const HEIGHT = 92,
  LINE = 9
/** A press that moves less than this is a click, CSS px. */
const CLICK_PX = 4
/** Of their own kind without their colours, too: they lie at different heights of the line. */
const LOOKS: Record<string, { colour: string; row: number }> = {
  soft: { colour: '#a78bfa', row: 0 },
  backdrop: { colour: '#f59e0b', row: 1 },
  stairs: { colour: '#38bdf8', row: 2 },
}

const backingOf = ({ ribbonBacking, backing }: Pick<BenchState, 'ribbonBacking' | 'backing'>): RibbonView['backing'] =>
  ribbonBacking !== 'same'
    ? ribbonBacking
    : backing.startsWith('#')
      ? ([1, 3, 5].map((at) => parseInt(backing.slice(at, at + 2), 16)) as [number, number, number])
      : 'checks'

export function Strip({
  edge,
  zoom,
  scroller,
  viewer,
  chosen,
}: {
  edge: UnrolledEdge | null
  zoom: number
  scroller: RefObject<HTMLDivElement | null>
  viewer: RefObject<Viewer | null>
  chosen: UnrolledEdge['doubts'][number] | undefined
}) {
  const canvas = useRef<HTMLCanvasElement>(null),
    [left, setLeft] = useState(0),
    [width, setWidth] = useState(0),
    [made, setMade] = useState<{ bitmap: ImageBitmap; left: number } | null>(null)
  const backing = useBench(useSameOf(backingOf)),
    size = useBench((state) => state.marker.size)
  const drag = useRef<{ drag: Drag | null; from: [number, number]; letGo: () => void } | null>(null),
    [pointer, setPointer] = useState<[number, number] | null>(null)
  const busy = useRef(false),
    again = useRef(false)

  useEffect(() => {
    const box = scroller.current!,
      observer = new ResizeObserver(() => setWidth(box.clientWidth))
    observer.observe(box)
    // The wheel turns along the ribbon.
    const wheel = (event: WheelEvent) => {
      if (Math.abs(event.deltaY) > Math.abs(event.deltaX)) {
        event.preventDefault()
        box.scrollLeft += event.deltaY
      }
    }
    box.addEventListener('wheel', wheel, { passive: false })
    return () => {
      observer.disconnect()
      box.removeEventListener('wheel', wheel)
    }
  }, [scroller])

  useEffect(() => {
    let current = true
    const ask = () => {
      if (!edge || width === 0) return
      if (busy.current) {
        again.current = true
        return
      }
      busy.current = true
      const ratio = devicePixelRatio,
        view: RibbonView = {
          from: left / zoom,
          step: 1 / (zoom * ratio),
          width: Math.max(1, Math.round(width * ratio)),
          height: Math.round(HEIGHT * ratio),
          backing,
        }
      askEngine((engine) => engine.ribbonPicture(view))
        ?.then(
          (bitmap) => {
            if (current) setMade({ bitmap, left })
            else bitmap.close()
          },
          () => {},
        )
        .finally(() => {
          busy.current = false
          if (again.current) {
            again.current = false
            if (current) ask()
          }
        })
    }
    ask()
    return () => {
      current = false
      again.current = false
    }
  }, [edge, left, width, zoom, backing])

  useEffect(() => {
    const surface = canvas.current!,
      paint = surface.getContext('2d')!,
      ratio = devicePixelRatio
    surface.width = Math.max(1, Math.round(width * ratio))
    surface.height = Math.round((HEIGHT + LINE) * ratio)
    paint.fillStyle = '#3a3a3a'
    paint.fillRect(0, 0, surface.width, surface.height)
    if (made) paint.drawImage(made.bitmap, (made.left - left) * ratio, 0)
    if (!edge) return
    paint.scale(ratio, ratio)
    // The edge itself, and where one contour ends and the next begins.
    paint.setLineDash([2, 4])
    paint.strokeStyle = 'rgba(255,255,255,.55)'
    paint.beginPath()
    paint.moveTo(0, HEIGHT / 2)
    paint.lineTo(width, HEIGHT / 2)
    paint.stroke()
    paint.setLineDash([])
    for (const start of edge.starts.slice(1)) {
      const x = start * zoom - left
      if (x > -2 && x < width + 2) {
        paint.fillStyle = '#3a3a3a'
        paint.fillRect(x - 1.5, 0, 3, HEIGHT)
        paint.fillStyle = '#fff'
        paint.fillRect(x - 0.5, 0, 1, HEIGHT)
      }
    }
    for (const spot of edge.doubts) {
      const x = spot.from * zoom - left,
        w = Math.max(2, (spot.to - spot.from) * zoom)
      if (x + w < 0 || x > width) continue
      const { colour, row } = LOOKS[spot.why]
      paint.fillStyle = colour
      paint.fillRect(x, HEIGHT + row * 3, w, 3)
      if (spot === chosen) {
        paint.strokeStyle = '#fff'
        paint.lineWidth = 1.5
        paint.strokeRect(x - 1, 1, w + 2, HEIGHT - 2)
      }
    }
    if (pointer) {
      paint.strokeStyle = '#fff'
      paint.lineWidth = 2
      paint.beginPath()
      paint.arc(pointer[0], pointer[1], Math.max(2, (size * zoom) / 2), 0, 7)
      paint.stroke()
      paint.strokeStyle = '#1b1b1b'
      paint.lineWidth = 1
      paint.stroke()
    }
  }, [edge, made, left, width, zoom, chosen, pointer, size])

  const at = (event: ReactPointerEvent): [number, number] => {
    const box = canvas.current!.getBoundingClientRect()
    return [event.clientX - box.left, event.clientY - box.top]
  }
  const place = ([x, y]: readonly [number, number]): [number, number] =>
    placeOn(edge!, (left + x) / zoom, (HEIGHT / 2 - y) / zoom)
  const down = (event: ReactPointerEvent) => {
    if (!edge?.length || event.button !== 0) return
    event.currentTarget.setPointerCapture(event.pointerId)
    drag.current = { drag: null, from: at(event), letGo: onEscape(takeBack) }
  }
  const takeBack = () => {
    const taken = drag.current
    drag.current = null
    taken?.letGo()
    taken?.drag?.cancel?.()
    abandon()
  }
  const move = (event: ReactPointerEvent) => {
    if (!edge?.length) return
    const here = at(event),
      now = drag.current
    setPointer(here[1] < HEIGHT ? here : null)
    set({ ribbonAt: place(here) })
    if (!now) return
    const modifiers = { shift: event.shiftKey, alt: event.altKey, free: false }
    if (!now.drag && Math.hypot(here[0] - now.from[0], here[1] - now.from[1]) > CLICK_PX)
      now.drag = edgeStroke({ point: place(now.from), scale: zoom, ...modifiers })
    now.drag?.move(place(here), modifiers, here)
  }
  const up = (event: ReactPointerEvent) => {
    const now = drag.current
    drag.current = null
    now?.letGo()
    if (!now || !edge?.length) return
    if (now.drag) now.drag.end()
    else goTo(viewer.current, place(at(event)))
  }
  return (
    <div
      ref={scroller}
      onScroll={(event) => setLeft(event.currentTarget.scrollLeft)}
      tabIndex={0}
      role="group"
      aria-label="The boundary from left to right, the outside above. Arrow keys scroll."
      className="overflow-x-scroll overflow-y-hidden bg-[#3a3a3a] outline-none focus-visible:ring-2 focus-visible:ring-inset focus-visible:ring-[var(--accent)]"
    >
      <div style={{ width: Math.max(width, (edge?.length ?? 0) * zoom), height: HEIGHT + LINE }}>
        <canvas
          ref={canvas}
          data-surface="ribbon"
          aria-hidden
          className="sticky left-0 block touch-pan-x"
          style={{ width, height: HEIGHT + LINE }}
          onPointerDown={down}
          onPointerMove={move}
          onPointerUp={up}
          onPointerCancel={takeBack}
          onPointerLeave={() => {
            setPointer(null)
            set({ ribbonAt: null })
          }}
        />
      </div>
    </div>
  )
}
