'use client'
import { type ReactNode, useState } from 'react'
import { type Layer } from '@/document/records'
import { later } from '@/ui/primitives/later'
import { Menu, MenuSheet, MenuTrigger } from '@/ui/primitives/Menu'

const MaskItems = later(() => import('./MaskItems').then((module) => module.MaskItems))

/** What can be done with a layer's mask. @param press what a plain press does instead of opening it; then a right click and the down arrow open it */
export function MaskMenu({ layer, press, children }: { layer: Layer; press?: () => void; children: ReactNode }) {
  const [open, setOpen] = useState(false)
  return (
    <Menu open={open} onOpenChange={setOpen}>
      <MenuTrigger
        asChild
        {...(press && {
          onPointerDown: (event) => event.preventDefault(),
          onKeyDown: (event) => {
            if (event.key !== 'Enter' && event.key !== ' ') return
            event.preventDefault()
            press()
          },
          onClick: press,
          onContextMenu: (event) => {
            event.preventDefault()
            setOpen(true)
          },
        })}
      >
        {children}
      </MenuTrigger>
      <MenuSheet align="start">{open && <MaskItems layer={layer} />}</MenuSheet>
    </Menu>
  )
}
