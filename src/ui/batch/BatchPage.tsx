'use client'
/** One batch: on the left what is done with each picture, on the right the pictures and what came of them. */
import { ArrowLeft, Download, FolderDown, FolderPlus, ImagePlus, Play, RotateCcw, Square } from 'lucide-react'
import Link from 'next/link'
import { Tooltip } from 'radix-ui'
import { useCallback, useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { type Batch } from '@/document/exchanged'
import { TRIED } from '@/document/batchRows'
import { LIMITS } from '@/document/limits'
import { Button } from '@/ui/primitives/Button'
import { useFileDrop } from '@/ui/primitives/fileDrop'
import { Sending } from '@/ui/shelf/Sending'
import { choosePictureFiles, nameOfFile } from '@/ui/store/addPictures'
import { addToBatch, changeBatch, intoFolder, madeZip, type PictureFilter, runBatch } from '@/ui/store/batches'
import { useDropAnywhere } from '@/ui/store/dropAnywhere'
import { chooseFolder, droppedPictures } from '@/ui/store/folders'
import { say } from '@/ui/store/say'
import { sendLeft, sendMany, type Take } from '@/ui/store/sendMany'
import { Filters } from './Filters'
import { FirstResults } from './FirstResults'
import { PictureTable } from './PictureTable'
import { PlanPanel } from './PlanPanel'
import { isBusy, useBatch } from './useBatch'
import { Failed } from '@/ui/primitives/Failed'
import { Notes } from '@/ui/primitives/Notes'
import { TabTitle } from '@/ui/primitives/TabTitle'
import { useTyping } from '@/ui/primitives/useTyping'

export function BatchPage({ id }: { id: string }) {
  const [filter, setFilter] = useState<PictureFilter>({ order: 'number' })
  const view = useBatch(id, filter),
    { batch, problem, away } = view
  const take = useCallback<Take>(({ asset }, file) => addToBatch(id, [{ asset, name: nameOfFile(file) }]), [id])
  const add = (files: readonly File[]) => sendMany(files, { kind: 'batch', batch: id }, take)
  useEffect(() => {
    void sendLeft((goal) => goal.kind === 'batch' && goal.batch === id, take)
  }, [id, take])
  const { over, place } = useFileDrop((dropped) => void droppedPictures(dropped).then(add))
  useDropAnywhere(add)
  const run = (what: 'try' | 'start' | 'again' | 'stop', numbers?: readonly number[]) =>
    void runBatch(id, what, numbers).then(view.show, say)

  if (problem)
    return <Failed title="This batch cannot be opened" problem={problem} back={['/batches', 'All batches']} />
  return (
    <Tooltip.Provider>
      <TabTitle shown={batch?.name} />
      <main className="flex h-screen flex-col" {...place}>
        {batch && <Head batch={batch} away={away} run={run} onChange={view.show} />}
        {batch && (
          <div className="flex min-h-0 grow">
            <aside className="w-[280px] shrink-0 overflow-y-auto border-r border-[var(--line)] p-4" aria-label="Plan">
              <PlanPanel batch={batch} onChange={(plan) => void changeBatch(id, { plan }).then(view.show, say)} />
            </aside>
            <section className="flex min-w-0 grow flex-col gap-3 p-4" aria-label="Pictures">
              <div className="flex items-center gap-2">
                <Button onClick={() => choosePictureFiles('batch-pictures', true, add)}>
                  <ImagePlus size={15} />
                  Add pictures …
                </Button>
                <Button onClick={() => chooseFolder('batch-folder', add)}>
                  <FolderPlus size={15} />
                  Add a folder …
                </Button>
                <span
                  className={`text-[13px] ${over ? 'font-semibold text-[var(--accent-text)]' : 'text-[var(--muted)]'}`}
                >
                  {over ? 'Let go to add them' : 'or drop pictures and folders anywhere'}
                </span>
              </div>
              <Sending />
              {countOf(batch) > 0 && (
                <>
                  {batch.state === 'draft' && (
                    <FirstResults
                      id={id}
                      rows={Array.from({ length: Math.min(TRIED, countOf(batch)) }, (_, i) => view.row(i))}
                      ready={filter.order === 'number' && !filter.state && !filter.doubt && !filter.name}
                    />
                  )}
                  <Filters batch={batch} filter={filter} total={view.total} onChange={setFilter} />
                  <PictureTable id={id} view={view} onAgain={(numbers) => run('again', numbers)} />
                </>
              )}
              {countOf(batch) === 0 && (
                <p className="grid grow place-items-center rounded-xl border-2 border-dashed border-[var(--line-strong)] text-[13px] text-[var(--muted)]">
                  No pictures yet. Drop a folder here: each picture is selected by the steps on the left, and comes out
                  as said there.
                </p>
              )}
            </section>
          </div>
        )}
      </main>
      <Notes />
    </Tooltip.Provider>
  )
}

/** Everything made into a folder of the server, with how far it is; pressed again it stops. */
function IntoFolder({ id }: { id: string }) {
  const [written, setWritten] = useState<number | null>(null),
    cancel = useRef<AbortController>(undefined)
  const start = async () => {
    cancel.current = new AbortController()
    setWritten(0)
    try {
      const folder = await intoFolder(id, cancel.current.signal, setWritten)
      toast.success(`All are in ${folder} on the server.`, { duration: 20_000 })
    } catch (error) {
      if (!cancel.current.signal.aborted) say(error)
    } finally {
      setWritten(null)
    }
  }
  return written === null ? (
    <Button onClick={() => void start()}>
      <FolderDown size={15} />
      Into a folder
    </Button>
  ) : (
    <Button onClick={() => cancel.current?.abort()}>
      <Square size={13} />
      {written} written
    </Button>
  )
}

const countOf = ({ counts }: Batch): number => Object.values(counts).reduce((a, b) => a + b, 0)

function Head({
  batch,
  away,
  run,
  onChange,
}: {
  batch: Batch
  away: boolean
  run: (what: 'try' | 'start' | 'again' | 'stop') => void
  onChange: (batch: Batch) => void
}) {
  const { counts, name } = batch,
    all = countOf(batch),
    over = counts.done + counts.failed,
    busy = isBusy(batch)
  const { field } = useTyping(name, (typed) => {
    const next = typed.trim()
    if (next && next !== name) void changeBatch(batch.id, { name: next }).then(onChange, say)
  })
  const trying = batch.state === 'draft'
  return (
    <header className="flex h-14 shrink-0 items-center gap-3 border-b border-[var(--line)] px-4">
      <Link
        href="/batches"
        aria-label="All batches"
        className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
      >
        <ArrowLeft size={17} />
      </Link>
      <h1 className="sr-only">Batch {name}</h1>
      <input
        aria-label="Name of the batch"
        {...field}
        maxLength={LIMITS.name}
        className="min-w-0 grow rounded-md bg-transparent px-2 py-1 text-sm font-semibold hover:bg-[var(--hover)]"
      />
      <p role="status" className="text-[13px] text-[var(--muted)]">
        {away
          ? 'The server is away; this may be old.'
          : busy
            ? `${over} of ${all} made`
            : all === 0
              ? ''
              : over === all
                ? `All ${all} made${counts.failed ? `, ${counts.failed} failed` : ''}`
                : `${all} pictures`}
      </p>
      {busy && (
        <div className="h-1.5 w-32 overflow-hidden rounded-full bg-[var(--line)]">
          <div className="h-full bg-[var(--accent)]" style={{ width: `${Math.max(2, (100 * over) / all)}%` }} />
        </div>
      )}
      {counts.failed > 0 && !busy && (
        <Button onClick={() => run('again')}>
          <RotateCcw size={14} />
          Make failed ones again
        </Button>
      )}
      {counts.done > 0 && (
        <a
          href={madeZip(batch.id)}
          download
          className="inline-flex min-h-9 items-center gap-2 rounded-lg border border-[var(--line)] px-3 text-[13px] font-semibold hover:bg-[var(--hover)]"
        >
          <Download size={15} />
          All as zip
        </a>
      )}
      {counts.done > 0 && <IntoFolder id={batch.id} />}
      {busy ? (
        <Button onClick={() => run('stop')}>
          <Square size={13} />
          Stop
        </Button>
      ) : (
        <>
          {trying && (
            <Button onClick={() => run('try')} why={all ? undefined : 'Add pictures first.'}>
              {counts.done ? 'Try the first three again' : 'Try the first three'}
            </Button>
          )}
          {counts.new > 0 && (
            <Button tone="accent" onClick={() => run('start')}>
              <Play size={14} />
              {batch.state === 'stopped'
                ? `Go on with ${counts.new}`
                : counts.done
                  ? `Start the other ${counts.new}`
                  : `Start all ${counts.new}`}
            </Button>
          )}
        </>
      )}
    </header>
  )
}
