'use client'
/** The library of skies below the picture, the best fit first: chosen by a press or the arrow keys, added by files, folder or drop. */
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react'
import { newSkyAt } from '@/document/newSkyParts'
import { AddPictures } from '@/ui/library/AddPictures'
import { Groups, MoveToGroup } from '@/ui/library/Groups'
import { Button } from '@/ui/primitives/Button'
import { useFileDrop } from '@/ui/primitives/fileDrop'
import { More } from '@/ui/primitives/More'
import { Naming } from '@/ui/primitives/Naming'
import { shownProject, useBench } from '@/ui/store/bench'
import { changePicture, groupsOf, takeOutOfLibrary, useLibrary } from '@/ui/store/library'
import { askLayers } from '@/ui/store/rendering'
import { droppedPictures } from '@/ui/store/folders'
import { useMatchTool } from './matchTool'
import { usePhoto } from './photoMeasures'
import { bringSky, skyProblem, stepSky } from './skyActs'
import {
  addSkies,
  loadSkies,
  type Ranked,
  rankedSkies,
  stopAdding,
  unreadable,
  useSkies,
  useSkyDock,
} from './skyLibrary'
import { MenuItem, MenuLine } from '@/ui/primitives/Menu'

/** ms */
const REST_MS = 250
const expectPictures = (assets: readonly string[]): void => void askLayers((engine) => engine.expect(assets))

export function SkyDock() {
  return useMatchTool() === 'sky' ? <Dock /> : null
}

function Dock() {
  const { adding, group } = useSkyDock(),
    skies = useSkies(),
    problem = useLibrary((state) => state.problem),
    measures = usePhoto((state) => state.found?.measures),
    there = useBench((state) => {
      const project = shownProject(state)
      return project ? newSkyAt(project.layers, project.activeLayer)?.sky?.asset : undefined
    }),
    why = useBench((state) => skyProblem(shownProject(state)))
  const ranked = useMemo(() => rankedSkies(skies ?? [], measures, group), [skies, measures, group]),
    groups = useMemo(() => groupsOf(skies ?? []), [skies])
  const { over, place } = useFileDrop((dropped) => void droppedPictures(dropped).then(add))
  const list = useRef<HTMLUListElement>(null)
  useEffect(() => {
    void loadSkies()
  }, [])
  useEffect(() => {
    const chosen = list.current?.querySelector<HTMLElement>('[aria-selected=true]')
    chosen?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
    if (list.current?.contains(document.activeElement)) chosen?.focus()
  }, [there])
  // The next sky to either side is opened before it is asked for.
  useEffect(() => {
    const at = ranked.findIndex(({ sky }) => sky.asset === there)
    if (there === undefined) return
    const timer = setTimeout(() => expectPictures([at - 1, at + 1].flatMap((k) => ranked[k]?.sky.asset ?? [])), REST_MS)
    return () => clearTimeout(timer)
  }, [there, ranked])
  useEffect(() => () => expectPictures([]), [])

  const add = (files: readonly File[]) => {
    void addSkies(files, group ?? '')
  }
  const keys = (event: KeyboardEvent) => {
    const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0
    if (!by || (event.target as Element).closest('input')) return
    event.preventDefault()
    stepSky(by)
  }
  return (
    <section
      aria-label="Skies"
      className={`shrink-0 border-t border-[var(--line)] bg-[var(--panel)] ${over ? 'outline-2 -outline-offset-2 outline-[var(--accent)]' : ''}`}
      onKeyDown={keys}
      {...place}
    >
      <header className="flex h-10 items-center gap-3 px-3">
        <h2 className="text-[13px] font-semibold">Skies</h2>
        <Groups
          kind="sky"
          all="By fit"
          pictures={skies ?? []}
          shown={group}
          show={(next) => useSkyDock.setState({ group: next })}
        />
        <span className="ml-auto min-w-0 truncate text-xs text-[var(--muted)]" role="status">
          {adding ? `Looking at ${adding.done + 1} of ${adding.of} …` : 'Drop pictures or a folder here'}
        </span>
        {adding ? (
          <Button className="!min-h-8 shrink-0" onClick={stopAdding}>
            Stop
          </Button>
        ) : (
          <AddPictures purpose="add-skies" label="Add skies …" add={add} />
        )}
      </header>
      {problem ? (
        <p className="flex items-center gap-3 px-3 pb-3 text-[13px]">
          {problem}
          <Button className="!min-h-7" onClick={() => void loadSkies()}>
            Try again
          </Button>
        </p>
      ) : skies && !ranked.length ? (
        <p className="px-3 pb-4 text-[13px] text-[var(--muted)]">
          No skies yet. Add pictures of skies: they are kept for every project.
        </p>
      ) : (
        <ul
          ref={list}
          role="listbox"
          aria-label="Skies by how well they fit"
          aria-orientation="horizontal"
          className="flex gap-2.5 overflow-x-auto px-3 pt-1 pb-2"
        >
          {ranked.map((each, i) => (
            <Card
              key={each.sky.asset}
              {...each}
              groups={groups}
              chosen={each.sky.asset === there}
              entry={ranked.some(({ sky }) => sky.asset === there) ? each.sky.asset === there : i === 0}
              why={why}
            />
          ))}
        </ul>
      )}
    </section>
  )
}

function Card({
  sky,
  fit,
  groups,
  chosen,
  entry,
  why,
}: Ranked & {
  groups: readonly string[]
  chosen: boolean
  /** The one that Tab comes to; arrow keys go on from there. */
  entry: boolean
  why: string | undefined
}) {
  const [naming, setNaming] = useState<'sky' | 'group' | null>(null)
  const cannot = why ?? unreadable.get(sky.asset),
    reason =
      unreadable.get(sky.asset) ??
      (fit ? `${fit.reason}${fit.mirrored ? ' · mirrored' : ''}` : sky.reads ? '' : 'Looking at it …')
  return (
    <li role="none" className="group relative w-[124px] shrink-0">
      <button
        type="button"
        role="option"
        aria-selected={chosen}
        tabIndex={entry ? 0 : -1}
        aria-disabled={cannot || !sky.reads ? true : undefined}
        aria-label={`${sky.name}${fit ? `, fits ${fit.score} of 100, ${reason}` : ''}`}
        title={cannot ?? sky.name}
        onClick={() => {
          if (!cannot) void bringSky(sky)
        }}
        className="block w-full text-left aria-disabled:opacity-60"
      >
        <img
          src={`/api/pictures/${sky.asset}/thumbnail`}
          alt=""
          width={124}
          height={66}
          loading="lazy"
          draggable={false}
          className={`h-[66px] w-[124px] rounded-lg bg-[var(--hover)] object-cover ${chosen ? 'ring-2 ring-[var(--accent)] ring-offset-2 ring-offset-[var(--panel)]' : ''}`}
        />
        {naming !== 'sky' && (
          <span className="mt-1 flex justify-between gap-1 text-[12.5px] font-semibold">
            <span className="truncate">{sky.name}</span>
            <span className="font-mono text-xs leading-5">{fit?.score}</span>
          </span>
        )}
      </button>
      {naming === 'sky' && (
        <Naming
          label={`Name of ${sky.name}`}
          name={sky.name}
          done={(name) => {
            setNaming(null)
            if (name !== sky.name) void changePicture('sky', sky.asset, { name })
          }}
        />
      )}
      {naming === 'group' ? (
        <Naming
          label={`New group for ${sky.name}`}
          name={sky.group}
          done={(name) => {
            setNaming(null)
            if (name !== sky.group) void changePicture('sky', sky.asset, { group: name })
          }}
        />
      ) : (
        <p className="truncate text-[11px] leading-4 text-[var(--muted)]" title={reason}>
          {reason || ' '}
        </p>
      )}
      <More
        what={sky.name}
        className="absolute top-1 right-1 size-6 bg-[var(--panel)] opacity-0 group-hover:opacity-100 focus-visible:opacity-100 data-[state=open]:opacity-100 [@media(hover:none)]:opacity-100"
      >
        <MenuItem onSelect={() => setNaming('sky')}>Rename</MenuItem>
        <MoveToGroup kind="sky" picture={sky} groups={groups} onNew={() => setNaming('group')} />
        <MenuLine />
        <MenuItem onSelect={() => void takeOutOfLibrary('sky', [sky])}>Remove from the library</MenuItem>
      </More>
    </li>
  )
}
