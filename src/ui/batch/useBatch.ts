/** A batch as it stands, asked for again while its pictures are being made. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { useEffect, useRef, useState } from 'react'
import { type Batch, type BatchPicture } from '@/document/exchanged'
import { ROWS_AT_ONCE } from '@/document/batchRows'
import { batchPictures, openBatch, type PictureFilter } from '@/ui/store/batches'
import { Unreachable } from '@/ui/store/server'
import { useSame } from '@/ui/primitives/useSame'

const ASK_MS = 700
/** While nothing is being made, others may still have changed it. */
const IDLE_MS = 4000

export const isBusy = ({ counts }: Pick<Batch, 'counts'>): boolean => counts.queued + counts.running > 0

export interface BatchView {
  readonly batch: Batch | null
  readonly problem: string
  /** The server is away: what is shown may be old. */
  readonly away: boolean
  /** What an act answered is shown at once. */
  readonly show: (batch: Batch) => void
  readonly total: number
  /** The row at a place of the filtered list; undefined as long as it has not come. Asking brings it. */
  readonly row: (place: number) => BatchPicture | undefined
}

export function useBatch(id: string, filter: PictureFilter): BatchView {
  const [batch, setBatch] = useState<Batch | null>(null),
    [problem, setProblem] = useState(''),
    [away, setAway] = useState(false),
    [pages, setPages] = useState<{ total: number; rows: ReadonlyMap<number, readonly BatchPicture[]> }>(NONE)
  const asked = useSame(filter)
  /** Pages that are in sight: those are asked for again. */
  const wanted = useRef(new Set<number>())
  wanted.current = new Set([0])
  /** Pages that are under way. */
  const coming = useRef(new Set<number>())
  const again = useRef(() => {})
  const brought = useRef<(some: readonly number[]) => Promise<void>>(async () => {})

  useEffect(() => {
    let over = false,
      turn = 0,
      timer: ReturnType<typeof setTimeout>
    setPages(NONE)
    coming.current.clear()
    const bring = async (some: readonly number[]) => {
      for (const page of some) {
        coming.current.add(page)
        try {
          const { pictures, total } = await batchPictures(id, asked, page * ROWS_AT_ONCE)
          if (over) return // others are asked for by now
          setPages((before) => ({ total, rows: new Map(before.rows).set(page, pictures) }))
        } finally {
          coming.current.delete(page)
        }
      }
    }
    /** One at a time goes on asking: the newest. */
    const ask = async () => {
      const mine = ++turn
      clearTimeout(timer)
      let pause = IDLE_MS
      try {
        const found = await openBatch(id)
        if (over || mine !== turn) return
        setBatch(found)
        setAway(false)
        setProblem('')
        await bring([...wanted.current])
        if (isBusy(found)) pause = ASK_MS
      } catch (error) {
        if (over) return
        if (error instanceof Unreachable) setAway(true)
        else setProblem(sentenceOf(error))
      }
      if (!over && mine === turn) timer = setTimeout(() => void ask(), document.hidden ? IDLE_MS : pause)
    }
    again.current = () => void ask()
    brought.current = bring
    void ask()
    return () => {
      over = true
      clearTimeout(timer)
    }
  }, [id, asked])

  return {
    batch,
    problem,
    away,
    show: (next) => {
      setBatch(next)
      again.current()
    },
    total: pages.total,
    row(place) {
      const page = Math.floor(place / ROWS_AT_ONCE)
      wanted.current.add(page)
      if (!pages.rows.has(page) && !coming.current.has(page)) {
        coming.current.add(page)
        queueMicrotask(() => void brought.current([page]).catch(() => {}))
      }
      return pages.rows.get(page)?.[place % ROWS_AT_ONCE]
    },
  }
}
const NONE = { total: 0, rows: new Map<number, readonly BatchPicture[]>() }
