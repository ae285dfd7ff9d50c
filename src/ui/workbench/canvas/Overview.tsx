'use client'
/** The whole picture, small, with the part that is in view, while not all of it is; dragged, the view goes along. */
import { type PointerEvent, useEffect, useRef, useSyncExternalStore } from 'react'
import { type Viewer } from '@/ui/canvas/viewer'

/** CSS px. */
const LONGEST = 160

function drawWhole(viewer: Viewer, surface: HTMLCanvasElement): void {
  const context = surface.getContext('2d')!,
    { width, height } = surface,
    { tile, pixel } = viewer.wholeTile(),
    { whole } = viewer
  context.fillStyle = viewer.checks(context)
  context.fillRect(0, 0, width, height)
  if (!tile) return
  context.imageSmoothingQuality = 'high'
  context.drawImage(tile, 0, 0, whole.width / pixel, whole.height / pixel, 0, 0, width, height)
}

export function Overview({ viewer }: { viewer: Viewer }) {
  const view = useSyncExternalStore(viewer.subscribe, viewer.getView)
  const surface = useRef<HTMLCanvasElement>(null)
  const whole = viewer.whole,
    shown = viewer.shown(view)
  const factor = LONGEST / Math.max(whole.width, whole.height),
    width = Math.max(1, Math.round(whole.width * factor)),
    height = Math.max(1, Math.round(whole.height * factor))
  const all = shown.left <= 0 && shown.top <= 0 && shown.right >= whole.width && shown.bottom >= whole.height
  useEffect(() => {
    if (all) return
    const draw = () => surface.current && drawWhole(viewer, surface.current)
    draw()
    return viewer.whenDrawn(draw)
  }, [viewer, all, width, height])
  if (all) return null
  const clamp = (v: number, most: number) => Math.min(most, Math.max(0, v))
  const x = clamp(shown.left * factor, width),
    y = clamp(shown.top * factor, height)
  const go = (event: PointerEvent) => {
    const box = surface.current!.getBoundingClientRect()
    viewer.lookAt((event.clientX - box.left) / factor, (event.clientY - box.top) / factor)
  }
  return (
    <div
      data-overview
      className="absolute right-3 bottom-3 cursor-move touch-none overflow-hidden rounded-lg border border-[var(--line-strong)] bg-[var(--panel)] shadow-md"
      onPointerDown={(event) => {
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        go(event)
      }}
      onPointerMove={(event) => {
        event.stopPropagation()
        if (event.currentTarget.hasPointerCapture(event.pointerId)) go(event)
      }}
      onPointerUp={(event) => event.stopPropagation()}
    >
      <canvas ref={surface} width={width} height={height} className="block" role="img" aria-label="The whole picture" />
      <span
        aria-hidden
        className="absolute border-2 border-white outline-1 outline-black"
        style={{
          left: x,
          top: y,
          width: Math.max(6, clamp(shown.right * factor, width) - x),
          height: Math.max(6, clamp(shown.bottom * factor, height) - y),
        }}
      />
    </div>
  )
}
