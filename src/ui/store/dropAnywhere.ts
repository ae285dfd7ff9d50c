/** Files dropped beside every place that takes them: they are taken all the same, and the browser never leaves the page for them. */
import { useEffect, useRef } from 'react'
import { droppedPictures } from './folders'

/** For a component. @param take is given pictures that were dropped where nothing else took them, or that come from the clipboard */
export function useDropAnywhere(take: (files: File[]) => void): void {
  const latest = useRef(take)
  latest.current = take
  useEffect(() => takeAnywhere((files) => latest.current(files)), [])
}
/** The same by itself. @returns what ends it */
export function takeAnywhere(take: (files: File[]) => void): () => void {
  const over = (event: DragEvent) => {
    if (event.dataTransfer?.types.includes('Files')) event.preventDefault()
  }
  const drop = (event: DragEvent) => {
    if (event.defaultPrevented || !event.dataTransfer?.types.includes('Files')) return
    event.preventDefault()
    void droppedPictures(event.dataTransfer).then(take)
  }
  const paste = (event: ClipboardEvent) => {
    const files = [...(event.clipboardData?.files ?? [])].filter(({ type }) => type.startsWith('image/'))
    if (!files.length || document.querySelector('[role=dialog]')) return
    event.preventDefault()
    take(files)
  }
  window.addEventListener('dragover', over)
  window.addEventListener('drop', drop)
  window.addEventListener('paste', paste)
  return () => {
    window.removeEventListener('dragover', over)
    window.removeEventListener('drop', drop)
    window.removeEventListener('paste', paste)
  }
}
