'use client'
/** The shelf: all projects, found, sorted and chosen; and a place to drop pictures and project files. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { ImagePlus, Trash2, TriangleAlert } from 'lucide-react'
import { useRouter } from 'next/navigation'
import { Tooltip } from 'radix-ui'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { type ProjectSummary, type StoredPicture } from '@/document/exchanged'
import { Button } from '@/ui/primitives/Button'
import { CardGrid } from '@/ui/primitives/CardGrid'
import { Choice } from '@/ui/primitives/Choice'
import { useFileDrop } from '@/ui/primitives/fileDrop'
import { nameOfFile, PICTURE_TYPES } from '@/ui/store/addPictures'
import { SearchField } from '@/ui/primitives/SearchField'
import { useDropAnywhere } from '@/ui/store/dropAnywhere'
import { droppedPictures } from '@/ui/store/folders'
import { say } from '@/ui/store/say'
import { type Send, sendLeft, sendMany, type Take } from '@/ui/store/sendMany'
import { soon } from '@/ui/store/soon'
import { listProjects, sendPicture } from '@/ui/store/server'
import { ProjectCard } from './ProjectCard'
import { Sending } from './Sending'
import {
  duplicateProject,
  finishRemoving,
  importProject,
  isProjectFile,
  projectOfPicture,
  removeProjects,
  renameProject,
} from './shelfActs'
import { SiteHeader } from './SiteHeader'
import { Notes } from '@/ui/primitives/Notes'
import { newestFirst } from '@/ui/primitives/when'

type Order = 'changed' | 'name' | 'size'
const ORDERS: Readonly<Record<Order, (a: ProjectSummary, b: ProjectSummary) => number>> = {
  changed: (a, b) => newestFirst(a.changed, b.changed),
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  size: (a, b) => b.width * b.height - a.width * a.height,
}
/** Project files as they are, pictures to begin one with. */
const sendToShelf: Send<StoredPicture | { id: string }> = (file, progress, signal) =>
  isProjectFile(file) ? importProject(file, progress, signal) : sendPicture(file, progress, signal)
/** From so many projects on there is something to search. */
const MANY = 4

export function Shelf() {
  const router = useRouter()
  const [projects, setProjects] = useState<ProjectSummary[] | null>(null),
    [problem, setProblem] = useState(''),
    [sought, setSought] = useState(''),
    [order, setOrder] = useState<Order>('changed'),
    [chosen, setChosen] = useState<ReadonlySet<string>>(new Set()),
    [hidden, setHidden] = useState<ReadonlySet<string>>(new Set())
  const chooser = useRef<HTMLInputElement>(null),
    /** The file that came without others. */
    alone = useRef<File>(undefined)

  const load = useCallback(() => {
    listProjects().then(
      (list) => {
        setProjects(list)
        setProblem('')
      },
      (error: unknown) => setProblem(sentenceOf(error)),
    )
  }, [])
  useEffect(load, [load])
  useEffect(() => {
    window.addEventListener('pagehide', finishRemoving)
    return () => {
      window.removeEventListener('pagehide', finishRemoving)
      finishRemoving()
    }
  }, [])

  /** A picture becomes a project: one that came alone is opened. */
  const take = useCallback<Take<StoredPicture | { id: string }>>(
    async (stored, file) => {
      const id = 'id' in stored ? stored.id : await projectOfPicture(stored, nameOfFile(file))
      if (file === alone.current) router.push(`/project/${id}`)
      else soon('shelf', load)
    },
    [load, router],
  )
  useEffect(() => void sendLeft(({ kind }) => kind === 'project', take, sendToShelf), [take])
  const start = (files: readonly File[]) => {
    const [first] = files
    alone.current = files.length === 1 ? first : undefined
    sendMany(files, { kind: 'project' }, take, sendToShelf)
  }
  const { over, place } = useFileDrop((dropped) => void droppedPictures(dropped).then(start))
  useDropAnywhere(start)

  const shown = useMemo(() => {
    const words = sought.toLowerCase().split(/\s+/).filter(Boolean)
    return (projects ?? [])
      .filter(({ id, name }) => !hidden.has(id) && words.every((word) => name.toLowerCase().includes(word)))
      .sort(ORDERS[order])
  }, [projects, sought, order, hidden])
  const remove = useCallback((some: readonly ProjectSummary[]) => {
    removeProjects(some, setHidden)
    setChosen(new Set())
  }, [])
  const acts = useMemo(
    () => ({
      rename: ({ id }: ProjectSummary, name: string) => void renameProject(id, name).then(load, say),
      duplicate: ({ id }: ProjectSummary) => void duplicateProject(id).then(load, say),
      remove: (project: ProjectSummary) => remove([project]),
      choose: ({ id }: ProjectSummary, on: boolean) =>
        setChosen((before) => {
          const after = new Set(before)
          if (on) after.add(id)
          else after.delete(id)
          return after
        }),
    }),
    [load, remove],
  )
  const picked = shown.filter(({ id }) => chosen.has(id))

  return (
    <Tooltip.Provider>
      <main className="mx-auto min-h-screen max-w-6xl px-8 py-7" {...place}>
        <SiteHeader here="projects" />
        <section
          className={`mb-8 flex items-center gap-5 rounded-2xl border-2 border-dashed px-7 py-6 ${over ? 'border-[var(--accent)] bg-[var(--chosen)]' : 'border-[var(--line-strong)]'}`}
          aria-label="New project"
        >
          <ImagePlus size={30} strokeWidth={1.5} className="shrink-0 text-[var(--accent-text)]" />
          <div className="mr-auto">
            <p className="font-semibold">
              {over ? 'Let go to start a project' : 'Drop a photo anywhere to start a project, or paste one'}
            </p>
            <p className="text-[13px] text-[var(--muted)]">
              JPEG, PNG, WebP, TIFF, AVIF or GIF, up to 150 megapixels; folders, project files and OpenRaster, too. The
              original stays untouched.
            </p>
          </div>
          <Button tone="accent" onClick={() => chooser.current?.click()}>
            Choose a photo …
          </Button>
          <input
            ref={chooser}
            type="file"
            multiple
            accept={`${PICTURE_TYPES},.ora,.zip`}
            aria-label="Choose a photo"
            className="sr-only"
            tabIndex={-1}
            onChange={(event) => {
              start([...(event.target.files ?? [])])
              event.target.value = ''
            }}
          />
        </section>
        <div className="mb-4 empty:hidden">
          <Sending />
        </div>
        {problem ? (
          <div role="alert" className="flex items-center gap-3 rounded-xl border border-[var(--line)] p-5">
            <TriangleAlert size={20} className="text-[var(--accent-text)]" />
            <p className="mr-auto">{problem}</p>
            <Button onClick={load}>Try again</Button>
          </div>
        ) : !projects ? (
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-5" aria-hidden>
            {[0, 1, 2].map((i) => (
              <li key={i} className="aspect-[4/3] animate-pulse rounded-xl bg-[var(--hover)]" />
            ))}
          </ul>
        ) : projects.every(({ id }) => hidden.has(id)) ? (
          <p className="text-[var(--muted)]">No projects yet. Drop a photo above.</p>
        ) : (
          <>
            <div className="mb-3 flex min-h-9 items-center gap-4 text-[13px]">
              <h2 className="text-sm font-semibold">Projects</h2>
              {picked.length > 0 ? (
                <>
                  <span>{picked.length} chosen</span>
                  <Button onClick={() => remove(picked)}>
                    <Trash2 size={14} />
                    Delete
                  </Button>
                  <Button onClick={() => setChosen(new Set())}>Choose none</Button>
                </>
              ) : (
                projects.length >= MANY && (
                  <>
                    <SearchField label="Search projects by name" value={sought} onChange={setSought} className="w-56" />
                    <span className="text-[var(--muted)]">{sought && `${shown.length} of ${projects.length}`}</span>
                  </>
                )
              )}
              <span className="ml-auto flex items-center gap-2">
                by
                <Choice
                  small
                  label="Order of projects"
                  value={order}
                  options={[
                    ['changed', 'date'],
                    ['name', 'name'],
                    ['size', 'size'],
                  ]}
                  onChange={setOrder}
                />
              </span>
            </div>
            {shown.length ? (
              <CardGrid
                label="Projects"
                items={shown}
                keyOf={({ id }) => id}
                narrowest={240}
                gap={20}
                below={92}
                card={(project) => <ProjectCard project={project} chosen={chosen.has(project.id)} acts={acts} />}
              />
            ) : (
              <p className="text-[var(--muted)]">No project of that name.</p>
            )}
          </>
        )}
      </main>
      <Notes />
    </Tooltip.Provider>
  )
}
