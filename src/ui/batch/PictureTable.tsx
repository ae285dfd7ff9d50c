'use client'
/** The pictures of a batch, of which only those in sight are drawn: ten thousand are as quick as ten. */
import { useVirtualizer } from '@tanstack/react-virtual'
import { Download, PencilLine, RotateCcw } from 'lucide-react'
import { useRouter } from 'next/navigation'
import { useRef } from 'react'
import { type BatchPicture } from '@/document/exchanged'
import { IconButton } from '@/ui/primitives/Button'
import { say } from '@/ui/store/say'
import { madeFile, madeThumbnail, mendPicture } from '@/ui/store/batches'
import { STATE_WORDS } from './Filters'
import { type BatchView } from './useBatch'

const ROW = 56
const COLUMNS =
  'grid grid-cols-[44px_64px_minmax(140px,1.4fr)_84px_72px_112px_minmax(80px,1fr)_104px] items-center gap-3 px-2'

export function PictureTable({
  id,
  view,
  onAgain,
}: {
  id: string
  view: BatchView
  onAgain: (numbers: readonly number[]) => void
}) {
  const scroller = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({
    count: view.total,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 6,
  })
  return (
    <div
      role="table"
      aria-label="Pictures and what came of them"
      aria-rowcount={view.total + 1}
      className="flex min-h-0 grow flex-col rounded-xl border border-[var(--line)]"
    >
      <div role="row" className={`${COLUMNS} h-8 shrink-0 border-b border-[var(--line)] text-xs text-[var(--muted)]`}>
        <span role="columnheader" className="text-right">
          No.
        </span>
        <span role="columnheader">
          <span className="sr-only">Result</span>
        </span>
        <span role="columnheader">Name</span>
        <span role="columnheader">State</span>
        <span role="columnheader" className="text-right">
          Selected
        </span>
        <span role="columnheader">Doubt</span>
        <span role="columnheader">What was said</span>
        <span role="columnheader">
          <span className="sr-only">Acts</span>
        </span>
      </div>
      <div ref={scroller} className="min-h-0 grow overflow-y-auto" data-pictures tabIndex={0} role="rowgroup">
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start }) => {
            const row = view.row(index)
            return (
              <div
                key={index}
                role="row"
                aria-rowindex={index + 2}
                data-picture={row?.number}
                className={`${COLUMNS} absolute inset-x-0 border-b border-[var(--line)] text-[13px] hover:bg-[var(--hover)]`}
                style={{ top: start, height: ROW }}
              >
                {row && <Cells id={id} row={row} onAgain={onAgain} />}
              </div>
            )
          })}
        </div>
      </div>
    </div>
  )
}

function Cells({ id, row, onAgain }: { id: string; row: BatchPicture; onAgain: (numbers: readonly number[]) => void }) {
  const router = useRouter()
  const percent = (share: number | null) => (share === null ? '' : `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`)
  const busy = row.state === 'queued' || row.state === 'running'
  const mend = () => mendPicture(id, row.number).then((project) => router.push(`/project/${project.id}`), say)
  return (
    <>
      <span role="cell" className="text-right font-mono text-xs text-[var(--muted)]">
        {row.number}
      </span>
      <span role="cell" className="checkerboard grid h-11 w-16 place-items-center overflow-hidden rounded">
        {row.state === 'done' ? (
          <img src={madeThumbnail(id, row)} alt="" loading="lazy" className="max-h-11 max-w-16 object-contain" />
        ) : (
          <img
            src={`/api/pictures/${row.asset}/thumbnail`}
            alt=""
            loading="lazy"
            className="max-h-11 max-w-16 object-contain opacity-50"
          />
        )}
      </span>
      <span role="cell" className="min-w-0">
        <b className="block truncate font-medium">{row.name}</b>
        <span className="text-xs text-[var(--muted)]">
          {row.width} × {row.height} px{row.project ? ' · by hand' : ''}
        </span>
      </span>
      <span role="cell" className={row.state === 'failed' ? 'text-[var(--error)]' : ''}>
        {STATE_WORDS[row.state]}
      </span>
      <span role="cell" className="text-right tabular-nums">
        {percent(row.selected)}
      </span>
      <span role="cell" className="flex items-center gap-2 tabular-nums">
        {row.doubt !== null && (
          <>
            <span className="h-1.5 w-12 overflow-hidden rounded-full bg-[var(--line)]" aria-hidden>
              <span className="block h-full bg-[var(--ink)]" style={{ width: `${Math.min(100, 100 * row.doubt)}%` }} />
            </span>
            {percent(row.doubt)}
          </>
        )}
      </span>
      <span
        role="cell"
        className="line-clamp-2 min-w-0 text-xs text-[var(--muted)]"
        title={row.problem ?? row.note ?? undefined}
      >
        {row.problem ?? row.note ?? ''}
      </span>
      <span role="cell" className="flex justify-end">
        <IconButton
          label={row.project ? `Open the project of ${row.name}` : `Mend ${row.name} by hand`}
          onClick={() => void mend()}
        >
          <PencilLine size={15} />
        </IconButton>
        <IconButton
          label={row.state === 'new' ? `Make ${row.name}` : `Make ${row.name} again`}
          why={busy ? 'It is being made.' : undefined}
          onClick={() => onAgain([row.number])}
        >
          <RotateCcw size={15} />
        </IconButton>
        {row.state === 'done' && (
          <a
            href={madeFile(id, row.number)}
            download
            aria-label={`Download ${row.name}`}
            className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
          >
            <Download size={15} />
          </a>
        )}
      </span>
    </>
  )
}
