'use client'
/** Groups of the library's pictures: as chips, and as a menu that moves a picture into one. */
import { useState } from 'react'
import { type LibraryKind, type LibraryPicture } from '@/document/library'
import { More } from '@/ui/primitives/More'
import { Naming } from '@/ui/primitives/Naming'
import { changePicture, groupsOf, renameLibraryGroup } from '@/ui/store/library'
import { MenuItem, SubMenu } from '@/ui/primitives/Menu'

const CHIP =
  'rounded-md px-2 py-1 text-xs font-medium whitespace-nowrap hover:bg-[var(--hover)] aria-pressed:bg-[var(--ink)] aria-pressed:text-[var(--panel)]'

export function Groups({
  kind,
  all,
  pictures,
  shown,
  show,
}: {
  kind: LibraryKind
  /** What all of them are called. */
  all: string
  pictures: readonly LibraryPicture[]
  /** Null: all. */
  shown: string | null
  show: (group: string | null) => void
}) {
  const groups = groupsOf(pictures)
  const [renaming, setRenaming] = useState(false)
  return (
    <div className="flex min-w-0 items-center gap-0.5 overflow-x-auto" role="group" aria-label="Groups">
      <button type="button" className={CHIP} aria-pressed={shown === null} onClick={() => show(null)}>
        {all} <span className="opacity-60">{pictures.length || ''}</span>
      </button>
      {groups.map((name) =>
        renaming && name === shown ? (
          <Naming
            key={name}
            label={`Name of the group ${name}`}
            name={name}
            done={(next) => {
              setRenaming(false)
              if (next === name) return
              void renameLibraryGroup(kind, name, next).then((done) => done && show(next))
            }}
          />
        ) : (
          <button key={name} type="button" className={CHIP} aria-pressed={shown === name} onClick={() => show(name)}>
            {name} <span className="opacity-60">{pictures.filter(({ group }) => group === name).length}</span>
          </button>
        ),
      )}
      {shown !== null && groups.includes(shown) && (
        <More what={`the group ${shown}`} className="size-7 shrink-0 hover:bg-[var(--hover)]">
          <MenuItem onSelect={() => setRenaming(true)}>Rename the group</MenuItem>
          <MenuItem onSelect={() => void renameLibraryGroup(kind, shown, '').then((done) => done && show(null))}>
            Remove the group; its pictures stay
          </MenuItem>
        </More>
      )}
    </div>
  )
}

/** @param onNew a name for a new group is asked for */
export function MoveToGroup({
  kind,
  picture,
  groups,
  onNew,
}: {
  kind: LibraryKind
  picture: LibraryPicture
  groups: readonly string[]
  onNew: () => void
}) {
  const move = (group: string) => void changePicture(kind, picture.asset, { group })
  return (
    <SubMenu name="Move to a group">
      {groups
        .filter((group) => group !== picture.group)
        .map((group) => (
          <MenuItem key={group} onSelect={() => move(group)}>
            {group}
          </MenuItem>
        ))}
      <MenuItem onSelect={onNew}>A new group …</MenuItem>
      {picture.group && <MenuItem onSelect={() => move('')}>No group</MenuItem>}
    </SubMenu>
  )
}
