'use client'
/** How far many pictures have been sent, and which were refused. */
import { X } from 'lucide-react'
import { forgetProblems, stopSending, useSending } from '@/ui/store/sendMany'
import { Button, IconButton } from '@/ui/primitives/Button'

export function Sending() {
  const { total, done, problems, under, waits } = useSending()
  const going = total > done + problems.length
  if (!going && !problems.length) return null
  const share = total ? (done + problems.length + Object.values(under).reduce((a, b) => a + b, 0)) / total : 1
  return (
    <section
      aria-label="Sending pictures"
      className="space-y-2 rounded-xl border border-[var(--line)] bg-[var(--raised)] p-3 text-[13px]"
    >
      <div className="flex items-center gap-3">
        <p role="status" className="mr-auto min-w-0 truncate">
          {going
            ? waits
              ? `The server is away; ${total - done - problems.length} pictures wait here and are sent when it is back.`
              : `Sending ${Math.min(total, done + problems.length + 1)} of ${total} · ${Object.keys(under)[0] ?? ''}`
            : `${done} sent, ${problems.length} refused`}
        </p>
        {going ? (
          <Button onClick={stopSending}>Cancel</Button>
        ) : (
          <IconButton label="Hide" onClick={forgetProblems}>
            <X size={15} />
          </IconButton>
        )}
      </div>
      {going && (
        <div className="h-1.5 overflow-hidden rounded-full bg-[var(--line)]">
          <div className="h-full bg-[var(--accent)]" style={{ width: `${Math.max(2, share * 100)}%` }} />
        </div>
      )}
      {problems.length > 0 && (
        <ul aria-label="Refused" className="max-h-32 space-y-1 overflow-y-auto text-xs text-[var(--error)]">
          {problems.map(({ name, sentence }, i) => (
            <li key={i}>{sentence.includes(name) ? sentence : `${name}: ${sentence}`}</li>
          ))}
        </ul>
      )}
    </section>
  )
}
