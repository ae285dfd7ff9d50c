'use client'
/** Over the canvas: the halves that pictures can be dropped on while some are held over it, and those being sent. */
import { useEffect } from 'react'
import { Sending } from '@/ui/shelf/Sending'
import { addLeft } from '@/ui/store/addLayers'
import { useBench } from '@/ui/store/bench'

export type Half = 'top' | 'below'

/** @param over the half they would go to @param active the name of the layer that the lower half is about */
export function DropHalves({ over, active }: { over: Half | null; active?: string }) {
  const id = useBench((state) => state.id)
  useEffect(() => void addLeft(id), [id])
  if (!over)
    return (
      <div className="absolute bottom-16 left-3 z-30 w-80 shadow-lg empty:hidden">
        <Sending />
      </div>
    )
  return (
    <div className="pointer-events-none absolute inset-0 z-30 grid grid-rows-2 gap-2 bg-black/35 p-3 text-center font-semibold text-white">
      {(['top', 'below'] as const).map((half) => (
        <div
          key={half}
          className={`grid place-items-center rounded-xl border-2 border-dashed ${over === half ? 'bg-[var(--accent)]/80' : ''}`}
        >
          {half === 'below' && active !== undefined ? `Below ${active}` : 'On top'}
        </div>
      ))}
    </div>
  )
}
