'use client'
/** The projects as cards, of which only the rows in sight are drawn: a thousand are as quick as ten. */
import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, useLayoutEffect, useRef, useState } from 'react'
import { type ProjectSummary } from '@/ui/store/server'

/** px. */
const NARROWEST = 240,
  GAP = 20,
  /** Below the cover. */ TEXT = 92

export function ProjectGrid({
  projects,
  card,
}: {
  projects: readonly ProjectSummary[]
  card: (project: ProjectSummary) => ReactNode
}) {
  const place = useRef<HTMLDivElement>(null)
  const [{ width, top }, setPlace] = useState({ width: 1088, top: 0 })
  useLayoutEffect(() => {
    const element = place.current!
    const look = () => setPlace({ width: element.clientWidth, top: element.offsetTop })
    const observer = new ResizeObserver(look)
    observer.observe(element)
    look()
    return () => observer.disconnect()
  }, [])
  const columns = Math.max(1, Math.floor((width + GAP) / (NARROWEST + GAP))),
    column = (width - GAP * (columns - 1)) / columns
  const rows = useWindowVirtualizer({
    count: Math.ceil(projects.length / columns),
    estimateSize: () => (column * 2) / 3 + TEXT + GAP,
    overscan: 2,
    scrollMargin: top,
  })
  useLayoutEffect(() => rows.measure(), [rows, column])
  return (
    <div ref={place} role="list" aria-label="Projects" className="relative" style={{ height: rows.getTotalSize() }}>
      {rows.getVirtualItems().map(({ index, start }) => (
        <div
          key={index}
          className="absolute inset-x-0 grid gap-5"
          style={{ top: start - top, gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
        >
          {projects.slice(index * columns, (index + 1) * columns).map((project) => (
            <div key={project.id} role="listitem">
              {card(project)}
            </div>
          ))}
        </div>
      ))}
    </div>
  )
}
