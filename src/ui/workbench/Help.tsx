/** Keys and gestures. */
import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { Switch } from '@/ui/primitives/Choice'
import { ThemeChoice } from '@/ui/primitives/ThemeChoice'
import { setSingleKeys, singleKeys } from './keys'
import { isTakingKey, KeyTable } from './KeyTable'

const GESTURES: readonly (readonly [string, string])[] = [
  ['Shift, then press', 'the next step adds'],
  ['Alt, then press', 'the next step takes away'],
  ['Shift and Alt, then press', 'the next step keeps the overlap'],
  ['Shift while dragging', 'equal sides; straight moves'],
  ['Alt while dragging', 'from the middle'],
  ['Middle button and drag', 'moves the view'],
  ['Wheel, or two fingers', 'zooms at the pointer'],
  ['Slider', 'drag, wheel, arrows, or type; double click for the default'],
  ['Enter', 'a step in the middle; then arrow keys move it'],
  ['Escape', 'takes back what is being dragged or drawn'],
  ['Tab to a handle, then arrow keys', 'move it by 1 px, with Shift by 10'],
  ['Right click, or the menu key', 'what to make of what is selected'],
  ['Ctrl while dragging', 'does not snap'],
  ['In Edge: Shift or Alt, then brush', 'keeps, or drops'],
]

export function Help({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const [single, setSingle] = useState(singleKeys)
  const row = (what: string, keys: string) => (
    <li key={what} className="flex justify-between gap-4 py-0.5 text-[13px]">
      <span>{what}</span>
      <kbd className="shrink-0 font-mono text-[11.5px] text-[var(--muted)]">{keys}</kbd>
    </li>
  )
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content
          aria-describedby={undefined}
          tabIndex={0}
          onEscapeKeyDown={(event) => {
            if (isTakingKey()) event.preventDefault() // that is given up, not all of it
          }}
          className="fixed top-1/2 left-1/2 z-50 max-h-[86vh] w-[820px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-xl border border-[var(--line)] bg-[var(--panel)] p-6 shadow-2xl outline-none"
        >
          <div className="mb-4 flex items-center gap-4">
            <Dialog.Title className="mr-auto text-base font-semibold">Keys and gestures</Dialog.Title>
            <ThemeChoice />
            <Switch
              label="Single keys work without Ctrl or Alt"
              checked={single}
              onChange={(on) => {
                setSingleKeys(on)
                setSingle(on)
              }}
            />
          </div>
          <section className="mb-4">
            <h3 className="mb-1 text-[13px] font-semibold">Hands</h3>
            <ul className="gap-8 sm:columns-2">{GESTURES.map(([keys, what]) => row(what, keys))}</ul>
          </section>
          <KeyTable />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
