'use client'
/** Whose steps are shown, and what concerns all of them. */
import { ChevronDown, Ellipsis, Plus } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { parseStep } from '@/core/formats/recipe'
import { addStep } from '@/document/edits'
import { type RecipeHome, SELECTION } from '@/document/types'
import { MODIFIER_PAGES } from '@/ui/modifiers/registry'
import { Tip } from '@/ui/primitives/Button'
import { COMMANDS } from './commands'
import { runCommand, shownKey } from './commandKeys'
import { act, set, shownProject, useBench } from '@/ui/store/bench'

/** Whose steps these are; where there are masks, a menu to see others'. */
export function HomeTitle({ home, name }: { home: RecipeHome; name: string }) {
  const layers = useBench(shownProject)?.layers.filter((layer) => layer.mask) ?? []
  const choose = (next: RecipeHome) => set({ home: next, openStep: null, result: null })
  if (!layers.length) return <h2 className="mr-auto truncate text-[13px] font-semibold">{name}</h2>
  return (
    <DropdownMenu.Root>
      <h2 className="mr-auto min-w-0 text-[13px] font-semibold">
        <DropdownMenu.Trigger
          aria-label={`${name}; show other steps`}
          className="flex max-w-full items-center gap-1 rounded-md px-1.5 py-1 hover:bg-[var(--hover)]"
        >
          <span className="truncate">{name}</span>
          <ChevronDown size={14} className="shrink-0" />
        </DropdownMenu.Trigger>
      </h2>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" sideOffset={4} className="menu">
          <DropdownMenu.Item
            className="menu-item"
            disabled={home.kind === 'selection'}
            onSelect={() => choose(SELECTION)}
          >
            Steps of the selection
          </DropdownMenu.Item>
          {[...layers].reverse().map((layer) => (
            <DropdownMenu.Item
              key={layer.id}
              className="menu-item"
              disabled={home.kind === 'mask' && home.layer === layer.id}
              onSelect={() => choose({ kind: 'mask', layer: layer.id })}
            >
              Steps of the mask of {layer.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

/** What concerns all steps at once. */
export function StepsMenu() {
  const item = (id: string, name = COMMANDS.find((c) => c.id === id)!.name) => (
    <DropdownMenu.Item className="menu-item flex justify-between gap-6" onSelect={() => runCommand(id)}>
      {name}
      <kbd className="font-mono text-[11px] text-[var(--muted)]">
        {shownKey(COMMANDS.find((c) => c.id === id)!.keys?.[0] ?? '')}
      </kbd>
    </DropdownMenu.Item>
  )
  return (
    <DropdownMenu.Root>
      <Tip text="More for all steps">
        <DropdownMenu.Trigger
          aria-label="More for all steps"
          className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
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
  const add = (kind: string, name: string, values: object) => {
    const id = crypto.randomUUID()
    act(name, addStep(home, parseStep({ kind, id, ...values })))
    set({ openStep: id })
  }
  return (
    <DropdownMenu.Root>
      <Tip text="Add a step that changes what the steps above it made">
        <DropdownMenu.Trigger
          aria-label="Add a changing step"
          className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
        >
          <Plus size={16} />
        </DropdownMenu.Trigger>
      </Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="menu">
          {MODIFIER_PAGES.map(({ kind, name, start }) => (
            <DropdownMenu.Item key={kind} className="menu-item" onSelect={() => add(kind, name, start)}>
              {name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
