'use client'
import { Scan } from 'lucide-react'
import { SELECTION } from '@/document/records'
import { shownProject, useBench, workOnSteps } from '@/ui/store/bench'
import { later } from '@/ui/primitives/later'
import { counted } from '@/ui/primitives/counted'

const SavedPanel = later(() => import('./SavedPanel').then((module) => module.SavedPanel))

/** The first row of the list: the selection that is being made, apart from all masks. */
export function SelectionRow({ focused }: { focused: boolean }) {
  const steps = useBench((state) => shownProject(state)?.selection.steps.length ?? 0)
  return (
    <div
      data-selection-row
      aria-current={focused || undefined}
      className={`flex h-[46px] items-center gap-2 border-b border-[var(--line)] pr-2 pl-2.5 ${focused ? 'row-focused' : ''}`}
    >
      <button
        type="button"
        aria-label="Work on the selection"
        onClick={() => workOnSteps(SELECTION)}
        className="flex min-w-0 flex-1 items-center gap-2 text-left"
      >
        <span className="grid h-[30px] w-[40px] shrink-0 place-items-center text-[var(--muted)]">
          <Scan size={17} />
        </span>
        <span className="min-w-0">
          <span className="block truncate text-[13px] font-semibold">Selection</span>
          <span className="block truncate text-xs text-[var(--muted)]">
            {steps ? counted(steps, 'step') : 'nothing selected'}
          </span>
        </span>
      </button>
      <SavedPanel />
    </div>
  )
}
