'use client'
import { FolderPlus, ImagePlus } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { choosePictureFiles } from '@/ui/store/addPictures'
import { chooseFolder } from '@/ui/store/folders'

/** Files or a folder, asked for. @param purpose a name for who asks, in the page */
export function AddPictures({
  purpose,
  label,
  add,
}: {
  purpose: string
  label: string
  add: (files: readonly File[]) => void
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="h-8 shrink-0 rounded-lg border border-[var(--line)] px-3 text-[13px] font-semibold hover:bg-[var(--hover)]">
        {label}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" align="end" sideOffset={4} collisionPadding={8}>
          <DropdownMenu.Item
            className="menu-item flex items-center gap-2"
            onSelect={() => choosePictureFiles(purpose, true, add)}
          >
            <ImagePlus size={15} />
            Pictures …
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className="menu-item flex items-center gap-2"
            onSelect={() => chooseFolder(`${purpose}-folder`, add)}
          >
            <FolderPlus size={15} />A folder …
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
