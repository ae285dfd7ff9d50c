'use client'
import { Ellipsis } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { type ReactNode } from 'react'
import { MenuSheet } from './Menu'

/** A menu of what else can be done; a name that is typed next keeps the focus. */
export function More({ what, className, children }: { what: string; className: string; children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`More for ${what}`}
        className={`grid place-items-center rounded-md ${className}`}
      >
        <Ellipsis size={14} />
      </DropdownMenu.Trigger>
      <MenuSheet onCloseAutoFocus={(event) => event.preventDefault()}>{children}</MenuSheet>
    </DropdownMenu.Root>
  )
}
