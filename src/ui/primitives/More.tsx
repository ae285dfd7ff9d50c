'use client'
import { Ellipsis } from 'lucide-react'
import { type ReactNode } from 'react'
import { Menu, MenuSheet, MenuTrigger } from './Menu'

/** A menu of what else can be done; a name that is typed next keeps the focus. */
export function More({ what, className, children }: { what: string; className: string; children: ReactNode }) {
  return (
    <Menu>
      <MenuTrigger aria-label={`More for ${what}`} className={`grid place-items-center rounded-md ${className}`}>
        <Ellipsis size={14} />
      </MenuTrigger>
      <MenuSheet onCloseAutoFocus={(event) => event.preventDefault()}>{children}</MenuSheet>
    </Menu>
  )
}
