'use client'
/** What is added to the steps by a menu, and what concerns all of them. */
import { Ellipsis, Plus } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { parseStep } from '@/core/formats/recipe'
import { addStep } from '@/document/edits'
import { type RecipeHome } from '@/document/records'
import { MODIFIER_PAGES, type ModifierPage, toolOf } from '@/ui/modifiers/registry'
import { Tip } from '@/ui/primitives/Button'
import { COMMANDS } from '../commands'
import { runCommand } from '../commandKeys'
import { act, workOnStep } from '@/ui/store/bench'
import { keysOf, shownKey } from '@/ui/store/ownKeys'

/** What concerns all steps at once. */
export function StepsMenu() {
  const item = (id: string, name = COMMANDS.find((c) => c.id === id)!.name) => (
    <DropdownMenu.Item className="menu-item flex justify-between gap-6" onSelect={() => runCommand(id)}>
      {name}
      <kbd className="font-mono text-[11px] text-[var(--muted)]">
        {shownKey(keysOf(COMMANDS.find((c) => c.id === id)!)[0] ?? '')}
      </kbd>
    </DropdownMenu.Item>
  )
  return (
    <DropdownMenu.Root>
      <Tip text="More for all steps">
        <DropdownMenu.Trigger
          aria-label="More for all steps"
          className="grid size-7 place-items-center rounded-md hover:bg-[var(--hover)]"
        >
          <Ellipsis size={16} />
        </DropdownMenu.Trigger>
      </Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="menu">
          {item('copySteps')}
          {item('pasteSteps', 'Paste steps')}
          {item('last')}
          {item('all')}
          {item('clear', 'Remove all steps')}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

export function AddModifier({ home }: { home: RecipeHome }) {
  const add = async ({ kind, name, start, begins }: ModifierPage) => {
    const step = parseStep({ kind, id: crypto.randomUUID(), ...start, ...(await begins?.()) })
    act(name, addStep(home, step))
    workOnStep(home, step.id!, toolOf(step))
  }
  return (
    <DropdownMenu.Root>
      <Tip text="Add a step that changes what the steps above it made">
        <DropdownMenu.Trigger
          aria-label="Add a changing step"
          className="flex h-7 items-center gap-1 rounded-md px-1.5 text-[12.5px] font-semibold text-[var(--accent-text)] hover:bg-[var(--hover)]"
        >
          <Plus size={14} />
          step
        </DropdownMenu.Trigger>
      </Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" sideOffset={4} collisionPadding={8} className="menu">
          {MODIFIER_PAGES.map((page) => (
            <DropdownMenu.Item key={page.kind} className="menu-item" onSelect={() => void add(page)}>
              {page.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
