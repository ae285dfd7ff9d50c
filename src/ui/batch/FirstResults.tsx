'use client'
/** The first three results, large, before the rest is started. */
import { type BatchPicture } from '@/document/exchanged'
import { madeThumbnail } from '@/ui/store/batches'
import { STATE_WORDS } from './Filters'

export function FirstResults({
  id,
  rows,
  ready,
}: {
  id: string
  rows: readonly (BatchPicture | undefined)[]
  ready: boolean
}) {
  if (!ready || !rows.some((row) => row && row.state !== 'new')) return null
  return (
    <div className="grid grid-cols-3 gap-3" aria-label="First results">
      {rows.map((row, i) => (
        <figure key={row?.number ?? i} className="overflow-hidden rounded-xl border border-[var(--line)]">
          <div className="checkerboard grid h-40 place-items-center">
            {row?.state === 'done' ? (
              <img
                src={madeThumbnail(id, row)}
                alt={`${row.name}, as it comes out`}
                className="max-h-40 max-w-full object-contain"
              />
            ) : (
              <span className="rounded bg-[var(--panel)] px-2 py-1 text-xs">
                {row?.state === 'failed' ? row.problem : row ? `${STATE_WORDS[row.state]} …` : ''}
              </span>
            )}
          </div>
          <figcaption className="flex justify-between gap-2 px-3 py-1.5 text-xs">
            <span className="truncate">{row?.name}</span>
            <span className="shrink-0 text-[var(--muted)]">
              {row?.doubt === null || row === undefined ? '' : `doubt ${Math.round(100 * row.doubt)} %`}
            </span>
          </figcaption>
        </figure>
      ))}
    </div>
  )
}
