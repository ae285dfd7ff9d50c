'use client'
import { ChevronDown } from 'lucide-react'
import { MenuButton } from '@/ui/primitives/Menu'
import { later } from '@/ui/primitives/later'

const MakeMenu = later(() => import('./MakeMenu').then((module) => module.MakeMenu))

/** Beside the button that makes a mask. */
export function MakeMenuButton() {
  return (
    <MenuButton
      label="What else to make of it"
      face={<ChevronDown size={16} />}
      className="grid w-9 shrink-0 place-items-center rounded-lg border border-[var(--line)] bg-[var(--panel)] hover:bg-[var(--hover)]"
    >
      <MakeMenu align="end" />
    </MenuButton>
  )
}
