/** A place that files are dropped on. */
import { type DragEvent, useState } from 'react'

/** @param take is given the drop while it is there: what it wants of it is asked at once */
export function useFileDrop(take: (dropped: DataTransfer) => void) {
  const [over, setOver] = useState(false)
  return {
    /** Files are held over it. */
    over,
    place: {
      onDragOver: (event: DragEvent) => {
        if (!event.dataTransfer.types.includes('Files')) return
        event.preventDefault()
        setOver(true)
      },
      onDragLeave: (event: DragEvent) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false)
      },
      onDrop: (event: DragEvent) => {
        event.preventDefault()
        setOver(false)
        take(event.dataTransfer)
      },
    },
  }
}
