'use client'
/** How far many pictures have been sent, and which were refused. */
import { X } from 'lucide-react'
import { useEffect, useState } from 'react'
import { forgetProblems, stopSending, useSending } from '@/ui/store/sendMany'
import { Button, IconButton } from '@/ui/primitives/Button'

const MOMENT_MS = 300

export function Sending() {
  const { total, done, problems, under, waits } = useSending()
  const going = total > done + problems.length
  // What is quickly done is not worth a word.
  const [lasts, setLasts] = useState(false)
  useEffect(() => {
    const timer = setTimeout(() => setLasts(going), going ? MOMENT_MS : 0)
    return () => clearTimeout(timer)
  }, [going])
  if (!(going && lasts) && !problems.length) return null
  const waiting = total - done - problems.length,
    share = total ? (done + problems.length + Object.values(under).reduce((a, b) => a + b, 0)) / total : 1
  return (
    <section
      aria-label="Sending pictures"
      className="space-y-2 rounded-xl border border-[var(--line)] bg-[var(--raised)] p-3 text-[13px]"
    >
      <div className="flex items-center gap-3">
        <p role="status" className={`mr-auto min-w-0 ${waits ? '' : 'truncate'}`}>
          {going
            ? waits
              ? `${waits} ${waiting === 1 ? 'A picture waits' : `${waiting} pictures wait`} in this browser and ${waiting === 1 ? 'is' : 'are'} sent later.`
              : `Sending ${Math.min(total, done + problems.length + 1)} of ${total} · ${Object.keys(under)[0] ?? ''}`
            : done
              ? `${done} sent, ${problems.length} refused`
              : 'Refused'}
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
