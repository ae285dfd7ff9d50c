'use client'
import { FolderPlus, ImagePlus } from 'lucide-react'
import { choosePictureFiles } from '@/ui/store/addPictures'
import { chooseFolder } from '@/ui/store/folders'
import { Menu, MenuItem, MenuSheet, MenuTrigger } from '@/ui/primitives/Menu'

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
    <Menu>
      <MenuTrigger className="h-8 shrink-0 rounded-lg border border-[var(--line)] px-3 text-[13px] font-semibold hover:bg-[var(--hover)]">
        {label}
      </MenuTrigger>
      <MenuSheet align="end">
        <MenuItem className="flex items-center gap-2" onSelect={() => choosePictureFiles(purpose, true, add)}>
          <ImagePlus size={15} />
          Pictures …
        </MenuItem>
        <MenuItem className="flex items-center gap-2" onSelect={() => chooseFolder(`${purpose}-folder`, add)}>
          <FolderPlus size={15} />A folder …
        </MenuItem>
      </MenuSheet>
    </Menu>
  )
}
