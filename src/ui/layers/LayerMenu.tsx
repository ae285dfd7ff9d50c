'use client'
import { Ellipsis } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { useState } from 'react'
import { type Layer } from '@/document/records'
import { Tip } from '@/ui/primitives/Button'
import { LAYER_ACTIONS, problemOfAction, runLayerAction } from './layerActions'
import { later } from '@/ui/primitives/later'

const AddMaskItems = later(() => import('./MaskItems').then((module) => module.AddMaskItems))

const SECTIONS: readonly (readonly string[])[] = [
  ['duplicate', 'lift', 'cut', 'erase'],
  ['group', 'ungroup', 'clip', 'lock'],
  ['isolate', 'solo'],
  ['mergeDown', 'copyVisible', 'copySelected', 'newProject', 'flatten'],
  ['remove'],
]

/** What can be done with the active layer; what cannot says why. */
export function LayerMenu({ layer }: { layer: Layer | undefined }) {
  const [open, setOpen] = useState(false)
  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen}>
      <Tip text="More for this layer">
        <DropdownMenu.Trigger
          aria-label="More for this layer"
          className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
        >
          <Ellipsis size={16} />
        </DropdownMenu.Trigger>
      </Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="menu max-h-[var(--radix-dropdown-menu-content-available-height)] overflow-y-auto"
        >
          {open && layer && !layer.mask && (
            <DropdownMenu.Sub>
              <DropdownMenu.SubTrigger className="menu-item flex justify-between">
                Mask<span aria-hidden>›</span>
              </DropdownMenu.SubTrigger>
              <DropdownMenu.Portal>
                <DropdownMenu.SubContent className="menu" sideOffset={4}>
                  <AddMaskItems layer={layer} />
                </DropdownMenu.SubContent>
              </DropdownMenu.Portal>
            </DropdownMenu.Sub>
          )}
          {open &&
            SECTIONS.map((section, i) => (
              <div key={section[0]}>
                {(i > 0 || (layer && !layer.mask)) && <DropdownMenu.Separator className="my-1 h-px bg-[var(--line)]" />}
                {section.map((id) => {
                  const action = LAYER_ACTIONS.find((each) => each.id === id)!,
                    why = problemOfAction(id)
                  return (
                    <DropdownMenu.Item
                      key={id}
                      className="menu-item"
                      disabled={why !== undefined}
                      title={why}
                      onSelect={() => runLayerAction(id)}
                    >
                      {action.name}
                    </DropdownMenu.Item>
                  )
                })}
              </div>
            ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
