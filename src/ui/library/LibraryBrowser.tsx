'use client'
/** The library's pictures: by what they are for, in groups, searched, ordered, chosen, added by files, folder or drop. */
import { type ReactNode, useEffect, useMemo, useRef } from 'react'
import { type LibraryKind, type LibraryPicture } from '@/document/library'
import { Button } from '@/ui/primitives/Button'
import { CardGrid } from '@/ui/primitives/CardGrid'
import { Choice, Select } from '@/ui/primitives/Choice'
import { useFileDrop } from '@/ui/primitives/fileDrop'
import { SearchField } from '@/ui/primitives/SearchField'
import { Sending } from '@/ui/shelf/Sending'
import { nameOfFile } from '@/ui/store/addPictures'
import { droppedPictures } from '@/ui/store/folders'
import { groupsOf, loadLibrary, loadLibrarySoon, putInLibrary, useLibrary } from '@/ui/store/library'
import { sendLeft, sendMany, type Take } from '@/ui/store/sendMany'
import { AddPictures } from './AddPictures'
import { browse, found, goToKind, KIND_NAMES, useBrowsing } from './browsing'
import { Groups } from './Groups'
import { PictureCard } from './PictureCard'

const EMPTY: Readonly<Record<LibraryKind, string>> = {
  sky: 'No skies yet. Add pictures of skies, or drop them here.',
  backdrop: 'No backdrops yet. Add pictures to lay behind a cut-out, or drop them here.',
  mask: 'No masks yet. Add pictures whose brightness or alpha is to mask layers, or drop them here.',
  own: 'Nothing yet. Pictures of projects are listed here by themselves; add others, or drop them here.',
}

export const addToLibrary = (part: LibraryKind, group: string | null, files: readonly File[]): void =>
  sendMany(files, { kind: 'library', part, group }, takeInto)
const takeInto: Take = async ({ asset }, file, goal) => {
  if (goal.kind !== 'library') return
  await putInLibrary(goal.part, asset, { name: nameOfFile(file), ...(goal.group ? { group: goal.group } : {}) })
  loadLibrarySoon(goal.part)
}
/** Those of the library that are chosen, in the order they are shown. */
export function useChosen(): readonly LibraryPicture[] {
  const { kind, chosen } = useBrowsing(),
    pictures = useLibrary((state) => state.pictures[kind])
  return useMemo(() => pictures?.filter(({ asset }) => chosen.has(asset)) ?? [], [pictures, chosen])
}

/** @param acts what can be done with those that are chosen */
export function LibraryBrowser({
  acts,
  onUse,
}: {
  acts: ReactNode
  /** What a double click on a picture does. */
  onUse: (picture: LibraryPicture) => void
}) {
  const { kind, group, sought, order, chosen } = useBrowsing(),
    pictures = useLibrary((state) => state.pictures[kind]),
    problem = useLibrary((state) => state.problem)
  useEffect(() => void loadLibrary(kind), [kind])
  useEffect(() => void sendLeft((goal) => goal.kind === 'library', takeInto), [])
  const shown = useMemo(() => found(pictures ?? [], { group, sought, order }), [pictures, group, sought, order]),
    groups = useMemo(() => groupsOf(pictures ?? []), [pictures])
  const scroller = useRef<HTMLDivElement>(null)
  const add = (files: readonly File[]) => addToLibrary(kind, group, files)
  const { over, place } = useFileDrop((dropped) => void droppedPictures(dropped).then(add))
  return (
    <section
      aria-label="Library"
      className={`flex min-h-0 grow flex-col ${over ? 'outline-2 outline-offset-2 outline-[var(--accent)]' : ''}`}
      {...place}
    >
      <div className="flex flex-wrap items-center gap-3 text-[13px]">
        <Choice label="Part of the library" value={kind} options={KIND_NAMES} onChange={goToKind} />
        <SearchField label="Search the library" value={sought} onChange={(next) => browse({ sought: next })} />
        <span className="ml-auto flex items-center gap-2">
          by
          <Select
            label="Order of pictures"
            value={order}
            options={[
              ['added', 'date'],
              ['name', 'name'],
              ['size', 'size'],
              ['used', 'use'],
            ]}
            onChange={(next) => browse({ order: next })}
          />
        </span>
        <AddPictures purpose="add-to-library" label="Add pictures …" add={add} />
      </div>
      <div className="flex min-h-9 items-center gap-3 py-1">
        <Groups
          kind={kind}
          all="All"
          pictures={pictures ?? []}
          shown={group}
          show={(next) => browse({ group: next })}
        />
        {sought && (
          <span className="text-xs text-[var(--muted)]" role="status">
            {shown.length} found
          </span>
        )}
      </div>
      <div className="pb-2 empty:hidden">
        <Sending />
      </div>
      {problem && !pictures ? (
        <p role="alert" className="flex items-center gap-3 text-[13px]">
          {problem}
          <Button onClick={() => void loadLibrary(kind)}>Try again</Button>
        </p>
      ) : (
        <div ref={scroller} className="min-h-0 grow overflow-y-auto" tabIndex={-1}>
          {!pictures ? (
            <p className="text-[13px] text-[var(--muted)]">Looking …</p>
          ) : shown.length ? (
            <CardGrid
              label={`${KIND_NAMES.find(([id]) => id === kind)![1]} of the library`}
              items={shown}
              keyOf={({ asset }) => asset}
              narrowest={168}
              gap={12}
              below={74}
              scroller={scroller}
              card={(picture) => (
                <PictureCard
                  kind={kind}
                  picture={picture}
                  groups={groups}
                  chosen={chosen.has(picture.asset)}
                  onUse={onUse}
                />
              )}
            />
          ) : (
            <p className="text-[13px] text-[var(--muted)]">{pictures.length ? 'None of that name.' : EMPTY[kind]}</p>
          )}
        </div>
      )}
      <footer className="flex min-h-12 items-center gap-3 border-t border-[var(--line)] pt-2 text-[13px]">
        {acts}
      </footer>
    </section>
  )
}
