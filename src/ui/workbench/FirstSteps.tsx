'use client'
/** Three steps to a first cut-out, on the demo's photo; what is done is ticked. */
import { Check, X } from 'lucide-react'
import { picksBackground } from '@/document/edits'
import { IconButton } from '@/ui/primitives/Button'
import { set, shownProject, useBench } from '@/ui/store/bench'
import { keyHint } from '@/ui/store/ownKeys'
import { forgetFirstSteps } from './firstVisit'

export function FirstSteps() {
  const done = useBench((state) => {
    const project = shownProject(state),
      masked = project?.layers.some(({ mask }) => mask) ?? false
    if (masked) return 3
    if (!project?.selection.steps.length) return 0
    return picksBackground(project.selection) ? 2 : 1
  })
  const steps = [
    'Press on the wall beside the otter, then with Shift on its other parts: what is alike is picked.',
    `Press ${keyHint('background', 'i')}: what you picked is the background.`,
    `Press ${keyHint('mask', 'm')}: the wall is hidden, not gone. Edge softens the fur.`,
  ]
  return (
    <section
      aria-label="First steps"
      className="flex h-10 shrink-0 items-center gap-4 overflow-hidden border-b border-[var(--line)] bg-[var(--chosen)] px-3 text-[12.5px]"
    >
      <ol className="flex min-w-0 flex-1 items-center gap-4">
        {steps.map((text, i) => (
          <li
            key={i}
            aria-current={i === done ? 'step' : undefined}
            className={`flex min-w-0 items-center gap-1.5 ${i === done ? 'font-semibold' : i < done ? 'text-[var(--muted)]' : 'text-[var(--muted)] max-[1200px]:hidden'}`}
          >
            <span className="grid size-5 shrink-0 place-items-center rounded-full border border-[var(--line-strong)] text-[11px]">
              {i < done ? <Check size={12} aria-label="done" /> : i + 1}
            </span>
            {(i === done || (done === 3 && i === 2)) && <span className="truncate">{text}</span>}
          </li>
        ))}
      </ol>
      <IconButton
        label="Hide the first steps for good"
        className="!size-7"
        onClick={() => {
          forgetFirstSteps()
          set({ firstSteps: false })
        }}
      >
        <X size={14} />
      </IconButton>
    </section>
  )
}
