'use client'
import { Plus } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { type Layer } from '@/document/records'
import { ADJUSTMENT_GROUPS, ADJUSTMENT_PAGES } from '@/ui/adjustments/registry'
import { Tip } from '@/ui/primitives/Button'
import { choosePictures } from '@/ui/store/addPictures'
import { addAdjustment, addColour, addGradient, addPaint } from './addLayers'

/** Every kind of layer, above the active one. */
export function AddMenu({ active }: { active: Layer | undefined }) {
  const item = (name: string, run: () => void) => (
    <DropdownMenu.Item key={name} className="menu-item" onSelect={run}>
      {name}
    </DropdownMenu.Item>
  )
  return (
    <DropdownMenu.Root>
      <Tip text="Add a layer">
        <DropdownMenu.Trigger
          aria-label="Add a layer"
          className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
        >
          <Plus size={17} />
        </DropdownMenu.Trigger>
      </Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} collisionPadding={8} className="menu">
          {active && item(`Pictures below ${active.name} …`, () => choosePictures(active.id))}
          {item('Pictures on top …', () => choosePictures(null))}
          <DropdownMenu.Separator className="my-1 h-px bg-[var(--line)]" />
          {item('Colour', addColour)}
          {item('Gradient', addGradient)}
          {item('Paint', addPaint)}
          <DropdownMenu.Separator className="my-1 h-px bg-[var(--line)]" />
          {ADJUSTMENT_GROUPS.map(([group, name]) => (
            <DropdownMenu.Sub key={group}>
              <DropdownMenu.SubTrigger className="menu-item flex justify-between">
                {group === 'effect' ? name : `Adjust ${name.toLowerCase()}`}
                <span aria-hidden>›</span>
              </DropdownMenu.SubTrigger>
              <DropdownMenu.Portal>
                <DropdownMenu.SubContent className="menu" sideOffset={4}>
                  {ADJUSTMENT_PAGES.filter((page) => page.group === group).map((page) =>
                    item(page.name, () => addAdjustment(page.kind)),
                  )}
                </DropdownMenu.SubContent>
              </DropdownMenu.Portal>
            </DropdownMenu.Sub>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
