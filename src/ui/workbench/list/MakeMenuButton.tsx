'use client'
import { ChevronDown } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { Tip } from '@/ui/primitives/Button'
import { later } from '@/ui/primitives/later'

const MakeMenu = later(() => import('./MakeMenu').then((module) => module.MakeMenu))

/** Beside the button that makes a mask. */
export function MakeMenuButton() {
  return (
    <DropdownMenu.Root>
      <Tip text="What else to make of it">
        <DropdownMenu.Trigger
          aria-label="What else to make of it"
          className="grid w-9 shrink-0 place-items-center rounded-lg border border-[var(--line)] bg-[var(--panel)] hover:bg-[var(--hover)]"
        >
          <ChevronDown size={16} />
        </DropdownMenu.Trigger>
      </Tip>
      <MakeMenu align="end" />
    </DropdownMenu.Root>
  )
}
