'use client'
import { Ellipsis } from 'lucide-react'
import { useState } from 'react'
import { type Layer } from '@/document/records'
import { MenuButton, MenuItem, MenuLine, MenuSheet, SubMenu } from '@/ui/primitives/Menu'
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
    <MenuButton
      label="More for this layer"
      face={<Ellipsis size={16} />}
      className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
      open={open}
      onOpenChange={setOpen}
    >
      <MenuSheet align="end">
        {open && layer && !layer.mask && (
          <SubMenu name="Mask">
            <AddMaskItems layer={layer} />
          </SubMenu>
        )}
        {open &&
          SECTIONS.map((section, i) => (
            <div key={section[0]}>
              {(i > 0 || (layer && !layer.mask)) && <MenuLine />}
              {section.map((id) => {
                const action = LAYER_ACTIONS.find((each) => each.id === id)!,
                  why = problemOfAction(id)
                return (
                  <MenuItem key={id} disabled={why !== undefined} title={why} onSelect={() => runLayerAction(id)}>
                    {action.name}
                  </MenuItem>
                )
              })}
            </div>
          ))}
      </MenuSheet>
    </MenuButton>
  )
}
