'use client'
/** What comes from outside: steps that are pasted, and pictures that are pasted or dropped anywhere on the workbench. On the canvas's upper half they go on top, on its lower half below the active layer, elsewhere on top. */
import { useEffect, useState } from 'react'
import { layerById } from '@/document/edits'
import { Sending } from '@/ui/shelf/Sending'
import { addLeft } from '@/ui/store/addLayers'
import { addPictures } from '@/ui/store/addPictures'
import { get, shownProject, useBench } from '@/ui/store/bench'
import { takeAnywhere } from '@/ui/store/dropAnywhere'
import { droppedPictures } from '@/ui/store/folders'
import { isTyping } from './keys'
import { pasteSteps } from './stepsClipboard'

type Half = 'top' | 'below'
const canvasBox = (): DOMRect | undefined => document.querySelector('[data-drop-place]')?.getBoundingClientRect()
const activeLayer = () => {
  const project = shownProject(get())
  return project ? layerById(project, project.activeLayer) : undefined
}
/** Null beside the canvas. */
function halfAt({ clientX, clientY }: DragEvent): Half | null {
  const box = canvasBox()
  if (!box || clientX < box.left || clientX > box.right || clientY < box.top || clientY > box.bottom) return null
  return activeLayer() && clientY > box.top + box.height / 2 ? 'below' : 'top'
}

export function FromOutside() {
  const [over, setOver] = useState<Half | null>(null)
  const project = useBench(shownProject),
    active = project ? layerById(project, project.activeLayer) : undefined
  useEffect(() => {
    const moved = (event: DragEvent) => {
      if (event.dataTransfer?.types.includes('Files')) setOver(halfAt(event))
    }
    const left = (event: DragEvent) => {
      if (!event.relatedTarget) setOver(null)
    }
    const dropped = (event: DragEvent) => {
      setOver(null)
      const half = halfAt(event)
      if (!half || !event.dataTransfer?.types.includes('Files')) return
      event.preventDefault()
      const below = half === 'below' ? activeLayer()!.id : null
      void droppedPictures(event.dataTransfer).then((files) => addPictures(files, below))
    }
    const paste = (event: ClipboardEvent) => {
      const text = event.clipboardData?.getData('text/plain')
      if (text && !isTyping(event.target) && !document.querySelector('[role=dialog]')) pasteSteps(text)
    }
    window.addEventListener('paste', paste)
    window.addEventListener('dragover', moved)
    window.addEventListener('dragleave', left)
    window.addEventListener('drop', dropped)
    const end = takeAnywhere((files) => addPictures(files, null))
    return () => {
      window.removeEventListener('paste', paste)
      window.removeEventListener('dragover', moved)
      window.removeEventListener('dragleave', left)
      window.removeEventListener('drop', dropped)
      end()
    }
  }, [])
  const id = useBench((state) => state.id)
  useEffect(() => void addLeft(id), [id])
  const box = canvasBox()
  if (!box) return null
  if (!over)
    return (
      <div className="fixed bottom-12 z-30 w-80 shadow-lg empty:hidden" style={{ left: box.left + 12 }}>
        <Sending />
      </div>
    )
  return (
    <div
      className="pointer-events-none fixed z-30 grid grid-rows-2 gap-2 bg-black/35 p-3 text-center font-semibold text-white"
      style={{ left: box.left, top: box.top, width: box.width, height: box.height }}
    >
      {(['top', 'below'] as const).map((half) => (
        <div
          key={half}
          className={`grid place-items-center rounded-xl border-2 border-dashed ${over === half ? 'bg-[var(--accent)]/80' : ''}`}
        >
          {half === 'below' && active ? `Below ${active.name}` : 'On top'}
        </div>
      ))}
    </div>
  )
}
