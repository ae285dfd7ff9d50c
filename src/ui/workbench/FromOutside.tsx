'use client'
/** What comes from outside: steps that are pasted, and pictures that are pasted or dropped anywhere on the workbench. On the canvas's upper half they go on top, on its lower half below the active layer, elsewhere on top. It listens from the first moment on; what it needs more comes when it is needed. */
import { useEffect, useState } from 'react'
import { layerById } from '@/document/edits'
import { later, loadLater } from '@/ui/primitives/later'
import { addPictures } from '@/ui/store/addPictures'
import { get, shownProject } from '@/ui/store/bench'
import { takeAnywhere } from '@/ui/store/dropAnywhere'
import { droppedPictures } from '@/ui/store/folders'
import type { Half } from './DropHalves'
import { isTyping } from './keys'

const DropHalves = later(() => import('./DropHalves').then((module) => module.DropHalves))
export const stepsClipboard = loadLater(() => import('./stepsClipboard'))

const activeLayer = () => {
  const project = shownProject(get())
  return project ? layerById(project, project.activeLayer) : undefined
}
/** Null beside the canvas. */
function halfAt({ clientX, clientY }: DragEvent): Half | null {
  const box = document.querySelector('[data-drop-place]')?.getBoundingClientRect()
  if (!box || clientX < box.left || clientX > box.right || clientY < box.top || clientY > box.bottom) return null
  return activeLayer() && clientY > box.top + box.height / 2 ? 'below' : 'top'
}

export function FromOutside() {
  const [over, setOver] = useState<Half | null>(null)
  useEffect(() => {
    const listening = new AbortController(),
      on: typeof window.addEventListener = (type: string, listener: EventListenerOrEventListenerObject) =>
        window.addEventListener(type, listener, listening)
    on('paste', ({ clipboardData, target }) => {
      const text = clipboardData?.getData('text/plain')
      if (text && !isTyping(target) && !document.querySelector('[role=dialog]'))
        void stepsClipboard().then(({ pasteSteps }) => pasteSteps(text))
    })
    on('dragover', (event) => {
      if (event.dataTransfer?.types.includes('Files')) setOver(halfAt(event))
    })
    on('dragleave', ({ relatedTarget }) => {
      if (!relatedTarget) setOver(null)
    })
    on('drop', (event) => {
      setOver(null)
      const half = halfAt(event)
      if (!half || !event.dataTransfer?.types.includes('Files')) return
      event.preventDefault()
      const below = half === 'below' ? activeLayer()!.id : null
      void droppedPictures(event.dataTransfer).then((files) => addPictures(files, below))
    })
    const end = takeAnywhere((files) => addPictures(files, null))
    return () => {
      listening.abort()
      end()
    }
  }, [])
  return <DropHalves over={over} active={over ? activeLayer()?.name : undefined} />
}
