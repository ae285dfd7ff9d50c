'use client'
/** The whole boundary as a strip below the picture: look along it, go to a place, paint in it, jump to the next doubtful spot. */
import { ChevronLeft, ChevronRight, X } from 'lucide-react'
import { type RefObject, useEffect, useRef } from 'react'
import { placeOn } from '@/core/edge/placeOn'
import { Choice, Select } from '@/ui/primitives/Choice'
import { IconButton } from '@/ui/primitives/Button'
import { set, useBench } from '@/ui/store/bench'
import { type Viewer } from '@/ui/canvas/viewer'
import { useRibbon } from './useRibbon'
import { Strip } from './RibbonStrip'
import { goTo } from './ribbonPlace'
import { keyHint } from '@/ui/store/ownKeys'

const WHY: Record<string, string> = {
  soft: 'soft where the picture is sharp',
  backdrop: 'the old backdrop shows',
  stairs: 'stair-steps',
}

export function RibbonPanel({ viewer }: { viewer: RefObject<Viewer | null> }) {
  const open = useBench((state) => state.ribbon)
  return open ? <OpenRibbon viewer={viewer} /> : null
}

function OpenRibbon({ viewer }: { viewer: RefObject<Viewer | null> }) {
  const edge = useRibbon(),
    zoom = useBench((state) => state.ribbonZoom),
    shown = useBench((state) => state.ribbonBacking),
    doubt = useBench((state) => state.doubt),
    steps = useBench((state) => state.result !== null)
  const scroller = useRef<HTMLDivElement>(null)
  const doubts = edge?.doubts ?? [],
    spot = doubt !== null ? doubts[Math.min(doubt, doubts.length - 1)] : undefined
  const look = (by: 1 | -1) => {
    if (!edge || !doubts.length) return
    const here = (scroller.current!.scrollLeft + scroller.current!.clientWidth / 2) / zoom
    const next =
      doubt === null
        ? Math.max(0, by > 0 ? doubts.findIndex((d) => d.from >= here) : doubts.findLastIndex((d) => d.to <= here))
        : (doubt + by + doubts.length) % doubts.length
    set({ doubt: next })
    const middle = (doubts[next].from + doubts[next].to) / 2
    scroller.current!.scrollLeft = middle * zoom - scroller.current!.clientWidth / 2
    goTo(viewer.current, placeOn(edge, middle, 0))
    set({ ribbonAt: placeOn(edge, middle, 0) })
  }
  const asked = useBench((state) => state.doubtAsked)
  useEffect(() => {
    if (!asked || !edge) return
    set({ doubtAsked: null })
    look(asked.by)
  })
  return (
    <section
      aria-label="Edge ribbon"
      data-ribbon={edge?.length ?? 0}
      data-doubts={doubts.length}
      className="shrink-0 border-t border-[var(--line)] bg-[var(--panel)]"
    >
      <header className="flex h-9 items-center gap-3 px-3 text-[12.5px]">
        <h2 className="font-semibold whitespace-nowrap">Edge ribbon</h2>
        <span className="truncate text-[var(--muted)]">
          {edge?.length
            ? `${edge.length.toLocaleString()} px${edge.starts.length > 2 ? ` in ${edge.starts.length - 1} pieces` : ''}`
            : edge
              ? 'no boundary: all or nothing is selected'
              : steps
                ? 'unrolling …'
                : 'nothing is selected'}
        </span>
        <span className="ml-auto flex items-center gap-1" aria-live="polite" data-doubt>
          <span className="mr-1 whitespace-nowrap text-[var(--muted)]">
            {spot
              ? `${Math.min(doubt!, doubts.length - 1) + 1} of ${doubts.length} · ${WHY[spot.why]}`
              : doubts.length
                ? `${doubts.length} doubtful ${doubts.length === 1 ? 'spot' : 'spots'}`
                : edge?.length
                  ? 'no doubtful spot'
                  : ''}
          </span>
          <IconButton
            label="Previous doubtful spot"
            keys={keyHint('Previous doubtful spot of the edge', ',')}
            why={doubts.length ? undefined : 'There is none.'}
            onClick={() => look(-1)}
          >
            <ChevronLeft size={16} />
          </IconButton>
          <IconButton
            label="Next doubtful spot"
            keys={keyHint('Next doubtful spot of the edge', '.')}
            why={doubts.length ? undefined : 'There is none.'}
            onClick={() => look(1)}
          >
            <ChevronRight size={16} />
          </IconButton>
        </span>
        <Select
          label="What the ribbon shows"
          className="w-32"
          value={shown}
          options={[
            ['same', 'on the backing'],
            ['picture', 'the picture'],
            ['matte', 'the matte'],
          ]}
          onChange={(ribbonBacking) => set({ ribbonBacking })}
        />
        <Choice
          small
          label="Zoom of the ribbon"
          value={zoom}
          options={[
            [0.5, '½×'],
            [1, '1×'],
            [2, '2×'],
            [4, '4×'],
          ]}
          onChange={(ribbonZoom) => set({ ribbonZoom })}
        />
        <IconButton label="Fold the ribbon away" onClick={() => set({ ribbon: false })}>
          <X size={15} />
        </IconButton>
      </header>
      {(edge?.length ?? 0) > 0 && <Strip edge={edge} zoom={zoom} scroller={scroller} viewer={viewer} chosen={spot} />}
    </section>
  )
}
