'use client'
/** The library over the workbench: pictures are taken into the project from here. */
import { X } from 'lucide-react'
import { Dialog } from 'radix-ui'
import { layerById } from '@/document/edits'
import { type LibraryPicture } from '@/document/library'
import { Button, IconButton } from '@/ui/primitives/Button'
import { addStored } from '@/ui/store/addLayers'
import { shownProject, useBench } from '@/ui/store/bench'
import { chooseNone } from './browsing'
import { LibraryBrowser, useChosen } from './LibraryBrowser'

export function LibraryDialog({ close }: { close: () => void }) {
  const chosen = useChosen(),
    active = useBench((state) => {
      const project = shownProject(state)
      return project && layerById(project, project.activeLayer)
    })
  const why = chosen.length ? undefined : 'Choose a picture first.'
  const take = (pictures: readonly LibraryPicture[], below: string | null) => {
    chooseNone()
    close()
    // The first one chosen comes to lie on top.
    for (const picture of [...pictures].reverse()) addStored(picture, below)
  }
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content
          aria-describedby={undefined}
          // One begins to type what is sought.
          onOpenAutoFocus={(event) => {
            event.preventDefault()
            ;(event.currentTarget as Element).querySelector<HTMLInputElement>('input[type=search]')?.focus()
          }}
          className="fixed top-1/2 left-1/2 z-50 flex h-[84vh] max-h-[760px] w-[960px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 flex-col rounded-xl border border-[var(--line)] bg-[var(--panel)] p-5 pb-3 shadow-2xl outline-none"
        >
          <div className="mb-3 flex items-center justify-between">
            <Dialog.Title className="text-base font-semibold">Library</Dialog.Title>
            <IconButton label="Close" onClick={close}>
              <X size={16} />
            </IconButton>
          </div>
          <LibraryBrowser
            onUse={(picture) => take([picture], null)}
            acts={
              <>
                <span className="mr-auto text-[var(--muted)]">
                  {chosen.length ? `${chosen.length} chosen` : 'A double click puts a picture on top.'}
                </span>
                {active && (
                  <Button why={why} onClick={() => take(chosen, active.id)} className="max-w-64">
                    <span className="truncate">Add below {active.name}</span>
                  </Button>
                )}
                <Button tone="accent" why={why} onClick={() => take(chosen, null)}>
                  Add on top
                </Button>
              </>
            }
          />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
