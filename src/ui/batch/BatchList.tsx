'use client'
/** All batches, and a new one from a recipe or a plan. */
import { FileJson, Trash2 } from 'lucide-react'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { Tooltip } from 'radix-ui'
import { useCallback, useEffect, useState } from 'react'
import { toast } from 'sonner'
import { type BatchSummary } from '@/document/exchanged'
import { Button, IconButton } from '@/ui/primitives/Button'
import { SiteHeader } from '@/ui/shelf/SiteHeader'
import { say } from '@/ui/store/say'
import { createBatch, deleteBatch, listBatches } from '@/ui/store/batches'
import { Notes } from '@/ui/primitives/Notes'
import { dayOf } from '@/ui/primitives/when'

/** What stands on a batch's row. */
function told({ counts, state }: BatchSummary): string {
  const all = Object.values(counts).reduce((a, b) => a + b, 0)
  if (!all) return 'no pictures yet'
  const busy = counts.queued + counts.running > 0
  const parts = [`${counts.done} of ${all} made`]
  if (counts.failed) parts.push(`${counts.failed} failed`)
  if (busy) parts.push('at work')
  else if (state === 'stopped') parts.push('stopped')
  return parts.join(' · ')
}

export function BatchList() {
  const router = useRouter()
  const [batches, setBatches] = useState<BatchSummary[] | null>(null)
  const load = useCallback(() => void listBatches().then(setBatches, say), [])
  useEffect(load, [load])
  const begin = async (file: File | undefined) => {
    if (!file) return
    try {
      let plan: unknown
      try {
        plan = JSON.parse(await file.text())
      } catch {
        throw new Error(`“${file.name}” is no recipe: it is not JSON.`)
      }
      const id = crypto.randomUUID()
      await createBatch(id, file.name.replace(/\.json$/i, '') || 'Batch', plan)
      router.push(`/batch/${id}`)
    } catch (error) {
      say(error)
    }
  }
  return (
    <Tooltip.Provider>
      <main className="mx-auto min-h-screen max-w-6xl px-8 py-7">
        <SiteHeader here="batches" />
        <section
          className="mb-8 flex items-center gap-5 rounded-2xl border border-[var(--line)] px-7 py-5"
          aria-label="New batch"
        >
          <FileJson size={28} strokeWidth={1.5} className="shrink-0 text-[var(--accent-text)]" />
          <div className="mr-auto">
            <p className="font-semibold">One selection for many pictures</p>
            <p className="text-[13px] text-[var(--muted)]">
              In a project, choose Export, then “Many pictures”: its steps are taken along. Or begin with a recipe file.
            </p>
          </div>
          <Button
            onClick={() => {
              const input = document.createElement('input')
              input.type = 'file'
              input.accept = 'application/json,.json'
              input.dataset.purpose = 'batch-recipe'
              input.onchange = () => void begin(input.files?.[0])
              input.click()
            }}
          >
            A recipe file …
          </Button>
        </section>
        {batches && !batches.length && <p className="text-[var(--muted)]">No batches yet.</p>}
        <ul className="space-y-2">
          {batches?.map((batch) => (
            <li
              key={batch.id}
              className="flex items-center rounded-xl border border-[var(--line)] pr-2 hover:border-[var(--line-strong)]"
            >
              <Link href={`/batch/${batch.id}`} className="flex min-w-0 grow items-baseline gap-4 px-4 py-3">
                <b className="truncate text-sm">{batch.name}</b>
                <span className="shrink-0 text-[13px] text-[var(--muted)]">{told(batch)}</span>
                <span className="shrink-0 ml-auto text-xs text-[var(--muted)]">{dayOf(batch.created)}</span>
              </Link>
              <IconButton
                label={`Delete ${batch.name}`}
                onClick={() => {
                  toast(`Delete “${batch.name}” and what it made?`, {
                    action: { label: 'Delete', onClick: () => void deleteBatch(batch.id).then(load, say) },
                    duration: 10_000,
                  })
                }}
              >
                <Trash2 size={15} />
              </IconButton>
            </li>
          ))}
        </ul>
      </main>
      <Notes />
    </Tooltip.Provider>
  )
}
