'use client'
/** What is kept with the project: selections under names, and paths. From here they come back as steps. */
import { Archive } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { Tip } from '@/ui/primitives/Button'
import { set, shownProject, useBench } from '@/ui/store/bench'
import { Selections } from './SavedSelections'
import { Paths } from './SavedPaths'

export function SavedPanel() {
  const project = useBench(shownProject),
    home = useBench((state) => state.home)
  const [open, setOpen] = useState(false)
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next)
        if (!next) set({ pathShown: null })
      }}
    >
      <Tip text="Saved selections and paths">
        <Popover.Trigger
          aria-label="Saved selections and paths"
          className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
        >
          <Archive size={15} />
        </Popover.Trigger>
      </Tip>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-40 max-h-[80vh] w-80 space-y-3 overflow-y-auto rounded-xl border border-[var(--line)] bg-[var(--panel)] p-3 shadow-lg"
          aria-label="Saved with the project"
          onInteractOutside={(event) => {
            if ((event.target as Element).closest('[data-canvas]')) event.preventDefault()
          }}
        >
          {project && <Selections project={project} home={home} />}
          {project && <Paths project={project} home={home} />}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
