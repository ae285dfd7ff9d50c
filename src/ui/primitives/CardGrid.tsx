'use client'
/** Cards in rows, of which only those in sight are drawn: a thousand are as quick as ten. */
import { type Virtualizer, useVirtualizer, useWindowVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, type RefObject, useLayoutEffect, useRef, useState } from 'react'

interface CardsProps<T> {
  readonly items: readonly T[]
  readonly keyOf: (item: T) => string
  readonly card: (item: T) => ReactNode
  readonly label: string
  /** px: a card's least width, between cards, and a card's height below its picture of 3:2. */
  readonly narrowest: number
  readonly gap: number
  readonly below: number
  /** What scrolls; the window where it is left out. */
  readonly scroller?: RefObject<HTMLElement | null>
}

export function CardGrid<T>(props: CardsProps<T>) {
  return props.scroller ? <InElement {...props} scroller={props.scroller} /> : <InWindow {...props} />
}

function useColumns({ narrowest, gap, below }: Pick<CardsProps<unknown>, 'narrowest' | 'gap' | 'below'>) {
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
  const columns = Math.max(1, Math.floor((width + gap) / (narrowest + gap))),
    column = (width - gap * (columns - 1)) / columns
  return { place, top, columns, height: (column * 2) / 3 + below + gap }
}

function InWindow<T>(props: CardsProps<T>) {
  const { place, top, columns, height } = useColumns(props)
  const rows = useWindowVirtualizer({
    count: Math.ceil(props.items.length / columns),
    estimateSize: () => height,
    overscan: 2,
    scrollMargin: top,
  })
  return <Rows {...props} place={place} top={top} columns={columns} height={height} rows={rows} />
}
function InElement<T>({ scroller, ...props }: CardsProps<T> & { scroller: RefObject<HTMLElement | null> }) {
  const { place, columns, height } = useColumns(props)
  const rows = useVirtualizer({
    count: Math.ceil(props.items.length / columns),
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 2,
  })
  return <Rows {...props} place={place} top={0} columns={columns} height={height} rows={rows} />
}

function Rows<T, S extends Window | Element>({
  items,
  keyOf,
  card,
  label,
  gap,
  place,
  top,
  columns,
  height,
  rows,
}: CardsProps<T> & {
  place: RefObject<HTMLDivElement | null>
  top: number
  columns: number
  height: number
  rows: Virtualizer<S, Element>
}) {
  useLayoutEffect(() => rows.measure(), [rows, height])
  return (
    <div ref={place} role="list" aria-label={label} className="relative" style={{ height: rows.getTotalSize() }}>
      {rows.getVirtualItems().map(({ index, start }) => (
        <div
          key={index}
          className="absolute inset-x-0 grid"
          style={{ top: start - top, gap, gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
        >
          {items.slice(index * columns, (index + 1) * columns).map((item) => (
            <div key={keyOf(item)} role="listitem" className="min-w-0">
              {card(item)}
            </div>
          ))}
        </div>
      ))}
    </div>
  )
}
