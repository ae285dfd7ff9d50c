'use client'
/** What is added to the steps by a menu, and what concerns all of them. */
import { Ellipsis, Plus } from 'lucide-react'
import { parseStep } from '@/core/formats/recipe'
import { addStep } from '@/document/edits'
import { type RecipeHome } from '@/document/records'
import { MODIFIER_PAGES, type ModifierPage, toolOf } from '@/ui/modifiers/registry'
import { COMMANDS } from '../commands'
import { runCommand } from '../commandKeys'
import { act, workOnStep } from '@/ui/store/bench'
import { keysOf, shownKey } from '@/ui/store/ownKeys'
import { MenuButton, MenuItem, MenuSheet } from '@/ui/primitives/Menu'

/** What concerns all steps at once. */
export function StepsMenu() {
  const item = (id: string, name = COMMANDS.find((c) => c.id === id)!.name) => (
    <MenuItem keys={shownKey(keysOf(COMMANDS.find((c) => c.id === id)!)[0] ?? '')} onSelect={() => runCommand(id)}>
      {name}
    </MenuItem>
  )
  return (
    <MenuButton
      label="More for all steps"
      face={<Ellipsis size={16} />}
      className="grid size-7 place-items-center rounded-md hover:bg-[var(--hover)]"
    >
      <MenuSheet align="end">
        {item('copySteps')}
        {item('pasteSteps', 'Paste steps')}
        {item('last')}
        {item('all')}
        {item('clear', 'Remove all steps')}
      </MenuSheet>
    </MenuButton>
  )
}

export function AddModifier({ home }: { home: RecipeHome }) {
  const add = async ({ kind, name, start, begins }: ModifierPage) => {
    const step = parseStep({ kind, id: crypto.randomUUID(), ...start, ...(await begins?.()) })
    act(name, addStep(home, step))
    workOnStep(home, step.id!, toolOf(step))
  }
  return (
    <MenuButton
      label="Add a changing step"
      tip="Add a step that changes what the steps above it made"
      face={
        <>
          <Plus size={14} />
          step
        </>
      }
      className="flex h-7 items-center gap-1 rounded-md px-1.5 text-[12.5px] font-semibold text-[var(--accent-text)] hover:bg-[var(--hover)]"
    >
      <MenuSheet align="start">
        {MODIFIER_PAGES.map((page) => (
          <MenuItem key={page.kind} onSelect={() => void add(page)}>
            {page.name}
          </MenuItem>
        ))}
      </MenuSheet>
    </MenuButton>
  )
}
