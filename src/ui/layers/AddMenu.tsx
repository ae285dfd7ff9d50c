'use client'
import { Plus } from 'lucide-react'
import { type Layer } from '@/document/records'
import { ADJUSTMENT_GROUPS, ADJUSTMENT_PAGES } from '@/ui/adjustments/registry'
import { MenuButton, MenuItem, MenuLine, MenuSheet, SubMenu } from '@/ui/primitives/Menu'
import { choosePictures } from '@/ui/store/addPictures'
import { addAdjustment, addColour, addGradient, addPaint } from './addLayers'

/** Every kind of layer, above the active one. */
export function AddMenu({ active }: { active: Layer | undefined }) {
  const item = (name: string, run: () => void) => (
    <MenuItem key={name} onSelect={run}>
      {name}
    </MenuItem>
  )
  return (
    <MenuButton
      label="Add a layer"
      face={<Plus size={17} />}
      className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
    >
      <MenuSheet align="end">
        {active && item(`Pictures below ${active.name} …`, () => choosePictures(active.id))}
        {item('Pictures on top …', () => choosePictures(null))}
        <MenuLine />
        {item('Colour', addColour)}
        {item('Gradient', addGradient)}
        {item('Paint', addPaint)}
        <MenuLine />
        {ADJUSTMENT_GROUPS.map(([group, name]) => (
          <SubMenu key={group} name={group === 'effect' ? name : `Adjust ${name.toLowerCase()}`}>
            {ADJUSTMENT_PAGES.filter((page) => page.group === group).map((page) =>
              item(page.name, () => addAdjustment(page.kind)),
            )}
          </SubMenu>
        ))}
      </MenuSheet>
    </MenuButton>
  )
}
