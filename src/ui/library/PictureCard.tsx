'use client'
import { Check } from 'lucide-react'
import Link from 'next/link'
import { useState } from 'react'
import { type LibraryKind, type LibraryPicture, type PictureUses } from '@/document/library'
import { More } from '@/ui/primitives/More'
import { Naming } from '@/ui/primitives/Naming'
import { changePicture, moveInLibrary, takeOutOfLibrary, usesOfPicture } from '@/ui/store/library'
import { say } from '@/ui/store/say'
import { KIND_NAMES, toggle } from './browsing'
import { MoveToGroup } from './Groups'
import { Menu, MenuItem, MenuLine, MenuSheet, MenuTrigger, SubMenu } from '@/ui/primitives/Menu'
import { dayOf } from '@/ui/primitives/when'

const bytesTold = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1024))} KB` : `${(bytes / 1024 / 1024).toFixed(1)} MB`

export function PictureCard({
  kind,
  picture,
  groups,
  chosen,
  onUse,
}: {
  kind: LibraryKind
  picture: LibraryPicture
  groups: readonly string[]
  chosen: boolean
  /** What a double click does. */
  onUse: (picture: LibraryPicture) => void
}) {
  const [naming, setNaming] = useState<'picture' | 'group' | null>(null)
  const { asset, name, width, height, bytes, added, projects, kept } = picture
  return (
    <div
      data-picture={name}
      className={`group relative overflow-hidden rounded-lg border hover:border-[var(--line-strong)] ${chosen ? 'border-[var(--accent)] bg-[var(--chosen)]' : 'border-[var(--line)]'}`}
    >
      <button
        type="button"
        aria-pressed={chosen}
        aria-label={`Choose ${name}`}
        onClick={() => toggle(asset)}
        onDoubleClick={() => onUse(picture)}
        className="relative block aspect-[3/2] w-full bg-[#8a8a8a]"
      >
        <img
          src={`/api/pictures/${asset}/thumbnail`}
          alt=""
          loading="lazy"
          draggable={false}
          className="absolute inset-0 size-full object-contain"
        />
        {chosen && (
          <span className="absolute top-1.5 left-1.5 grid size-5 place-items-center rounded bg-[var(--accent)] text-white">
            <Check size={14} />
          </span>
        )}
      </button>
      <div className="px-2.5 pt-1.5 pb-2">
        <div className="flex h-6 items-center justify-between gap-1">
          {naming === 'picture' ? (
            <Naming
              label={`Name of ${name}`}
              name={name}
              done={(next) => {
                setNaming(null)
                if (next !== name) void changePicture(kind, asset, { name: next })
              }}
            />
          ) : naming === 'group' ? (
            <Naming
              label={`New group for ${name}`}
              name={picture.group}
              done={(next) => {
                setNaming(null)
                if (next !== picture.group) void changePicture(kind, asset, { group: next })
              }}
            />
          ) : (
            <b className="truncate text-[13px]" title={name}>
              {name}
            </b>
          )}
          <More what={name} className="size-6 shrink-0 hover:bg-[var(--hover)]">
            <MenuItem onSelect={() => setNaming('picture')}>Rename</MenuItem>
            <MoveToGroup kind={kind} picture={picture} groups={groups} onNew={() => setNaming('group')} />
            <SubMenu name="Put among">
              {KIND_NAMES.filter(([to]) => to !== kind).map(([to, label]) => (
                <MenuItem key={to} onSelect={() => void moveInLibrary(kind, to, [picture])}>
                  {label}
                </MenuItem>
              ))}
            </SubMenu>
            <MenuLine />
            <MenuItem disabled={!kept} onSelect={() => void takeOutOfLibrary(kind, [picture])}>
              {kept ? 'Remove from the library' : 'Listed as long as a project shows it'}
            </MenuItem>
          </More>
        </div>
        <p className="truncate text-[11px] leading-4 text-[var(--muted)]">
          {width} × {height} · {bytesTold(bytes)}
        </p>
        <div className="flex justify-between gap-2 text-[11px] leading-4 text-[var(--muted)]">
          <span className="truncate">{dayOf(added)}</span>
          {projects > 0 && <Uses picture={picture} />}
        </div>
      </div>
    </div>
  )
}

/** Where it is used: asked for when somebody wants to know. */
function Uses({ picture }: { picture: LibraryPicture }) {
  const [uses, setUses] = useState<PictureUses | null>(null)
  const places = uses && [
    ...uses.projects.map(({ id, name }) => ({ id, name, href: `/project/${id}` })),
    ...uses.batches.map(({ id, name }) => ({ id, name: `Batch ${name}`, href: `/batch/${id}` })),
  ]
  return (
    <Menu onOpenChange={(open) => open && void usesOfPicture(picture.asset).then(setUses, say)}>
      <MenuTrigger
        aria-label={`Where ${picture.name} is used`}
        className="shrink-0 rounded underline decoration-dotted underline-offset-2 hover:text-[var(--ink)]"
      >
        in {picture.projects === 1 ? 'a project' : `${picture.projects} projects`}
      </MenuTrigger>
      <MenuSheet className="max-h-72 max-w-80 overflow-y-auto">
        {!places && <p className="px-2 py-1 text-xs text-[var(--muted)]">Looking …</p>}
        {places?.map(({ id, name, href }) => (
          <MenuItem key={id} asChild className="block truncate">
            <Link href={href}>{name}</Link>
          </MenuItem>
        ))}
      </MenuSheet>
    </Menu>
  )
}
