'use client'
/** What can be made of what is selected: a menu beside the result, and where the picture is right-clicked. */
import { ChevronDown } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { problemOfAction } from '@/ui/layers/layerActions'
import { Tip } from '@/ui/primitives/Button'
import { set, shownProject, useBench } from '@/ui/store/bench'
import { COMMANDS } from '../commands'
import { runCommand, shownKey } from '../commandKeys'
import { maskProblem, saveProblem } from '@/ui/store/makeOf'

/** Commands, by their names in the table, and why each cannot be done now. */
const SECTIONS: readonly (readonly (readonly [command: string, why: () => string | undefined])[])[] = [
  [
    ['mask', maskProblem],
    ...['lift', 'cut', 'erase'].map((action) => [`layer ${action}`, () => problemOfAction(action)] as const),
  ],
  [
    ...['copySelected', 'newProject'].map((action) => [`layer ${action}`, () => problemOfAction(action)] as const),
    ['saveSelection', saveProblem],
  ],
]

/** Made when the menu opens: what cannot be done is asked then. */
function Items() {
  const selected = useBench((state) => Boolean(shownProject(state)?.selection.steps.length))
  return (
    <>
      {!selected && (
        <DropdownMenu.Label className="px-[9px] py-1.5 text-xs text-[var(--muted)]">
          Nothing is selected yet.
        </DropdownMenu.Label>
      )}
      {SECTIONS.map((section, n) => (
        <div key={section[0][0]}>
          {n > 0 && <DropdownMenu.Separator className="my-1 h-px bg-[var(--line)]" />}
          {section.map(([id, problem]) => {
            const { name, keys } = COMMANDS.find((command) => command.id === id)!,
              why = problem()
            return (
              <DropdownMenu.Item
                key={id}
                className="menu-item flex justify-between gap-6"
                disabled={why !== undefined}
                title={why}
                onSelect={() => runCommand(id)}
              >
                {name.replace(/^Layer: /, '')}
                {keys && <kbd className="font-mono text-[11px] text-[var(--muted)]">{shownKey(keys[0])}</kbd>}
              </DropdownMenu.Item>
            )
          })}
        </div>
      ))}
    </>
  )
}

/** @param onPicture it was opened there: the keyboard goes back to the picture */
const Menu = ({ align, onPicture = false }: { align: 'start' | 'end'; onPicture?: boolean }) => (
  <DropdownMenu.Portal>
    <DropdownMenu.Content
      align={align}
      sideOffset={4}
      collisionPadding={8}
      className="menu"
      aria-label="What to make of what is selected"
      onCloseAutoFocus={
        onPicture
          ? (event) => {
              event.preventDefault()
              document.querySelector<HTMLElement>('[data-canvas]')?.focus()
            }
          : undefined
      }
    >
      <Items />
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
)

/** Beside the button that makes a mask. */
export function MakeMenuButton() {
  return (
    <DropdownMenu.Root>
      <Tip text="What else to make of it">
        <DropdownMenu.Trigger
          aria-label="What else to make of it"
          className="grid w-9 shrink-0 place-items-center rounded-lg border border-[var(--line)] bg-[var(--panel)] hover:bg-[var(--hover)]"
        >
          <ChevronDown size={16} />
        </DropdownMenu.Trigger>
      </Tip>
      <Menu align="end" />
    </DropdownMenu.Root>
  )
}

/** Where the picture was right-clicked. */
export function MakeMenuHere() {
  const at = useBench((state) => state.makeAt)
  if (!at) return null
  return (
    <DropdownMenu.Root
      open
      onOpenChange={(open) => {
        if (!open) set({ makeAt: null })
      }}
    >
      <DropdownMenu.Trigger asChild>
        <span aria-hidden className="pointer-events-none fixed" style={{ left: at[0], top: at[1] }} />
      </DropdownMenu.Trigger>
      <Menu align="start" onPicture />
    </DropdownMenu.Root>
  )
}
