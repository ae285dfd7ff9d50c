'use client'
/** The shelf: all projects, newest first, and a place to drop a photo. */
import { ImagePlus, Scissors, Trash2, TriangleAlert } from 'lucide-react'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { AlertDialog, Tooltip } from 'radix-ui'
import { useCallback, useEffect, useRef, useState } from 'react'
import { Toaster } from 'sonner'
import { projectOf } from '@/document/edits'
import { Button, IconButton } from '@/ui/primitives/Button'
import { useFileDrop } from '@/ui/primitives/fileDrop'
import { createProject, deleteProject, listProjects, type ProjectSummary } from '@/ui/store/server'
import { nameOfFile, PICTURE_TYPES, sendWithProgress, tell } from '@/ui/store/addPictures'

export function Shelf() {
  const router = useRouter()
  const [projects, setProjects] = useState<ProjectSummary[] | null>(null)
  const [problem, setProblem] = useState('')
  const [busy, setBusy] = useState(false)
  const chooser = useRef<HTMLInputElement>(null)

  const load = useCallback(() => {
    listProjects().then(
      (list) => {
        setProjects(list)
        setProblem('')
      },
      (error: unknown) => setProblem(error instanceof Error ? error.message : String(error)),
    )
  }, [])
  useEffect(load, [load])

  /** The first good photo becomes a project; each that is refused says why. */
  const start = async (files: readonly File[]) => {
    if (busy || !files.length) return
    setBusy(true)
    try {
      for (const file of files) {
        try {
          const { asset, width, height, ppi } = await sendWithProgress(file)
          const id = crypto.randomUUID(),
            name = nameOfFile(file)
          await createProject(id, projectOf(name, { asset, width, height, name, ppi }, crypto.randomUUID()))
          router.push(`/project/${id}`)
          return
        } catch (error) {
          tell(error)
        }
      }
    } finally {
      setBusy(false)
    }
  }
  const { over, place } = useFileDrop(({ files }) => void start([...files]))

  return (
    <Tooltip.Provider>
      <main className="mx-auto min-h-screen max-w-6xl px-8 py-7" {...place}>
        <header className="mb-6 flex items-center gap-3">
          <span className="grid size-9 place-items-center rounded-xl bg-[var(--accent)] text-white">
            <Scissors size={20} />
          </span>
          <div className="mr-auto">
            <h1 className="text-lg leading-tight font-bold">Wily Scissor</h1>
            <p className="text-[13px] text-[var(--muted)]">Cut out, replace, compose. Every step stays editable.</p>
          </div>
        </header>
        <section
          className={`mb-8 flex items-center gap-5 rounded-2xl border-2 border-dashed px-7 py-6 ${over ? 'border-[var(--accent)] bg-[var(--chosen)]' : 'border-[var(--line-strong)]'}`}
          aria-label="New project"
        >
          <ImagePlus size={30} strokeWidth={1.5} className="shrink-0 text-[var(--accent-text)]" />
          <div className="mr-auto">
            <p className="font-semibold">
              {busy
                ? 'Opening the photo …'
                : over
                  ? 'Let go to start a project'
                  : 'Drop a photo anywhere to start a project'}
            </p>
            <p className="text-[13px] text-[var(--muted)]">
              JPEG, PNG, WebP, TIFF, AVIF or GIF, up to 150 megapixels. The original stays untouched.
            </p>
          </div>
          <Button tone="accent" onClick={() => chooser.current?.click()}>
            Choose a photo …
          </Button>
          <input
            ref={chooser}
            type="file"
            accept={PICTURE_TYPES}
            aria-label="Choose a photo"
            className="sr-only"
            tabIndex={-1}
            onChange={(event) => {
              void start([...(event.target.files ?? [])])
              event.target.value = ''
            }}
          />
        </section>
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
        ) : projects.length === 0 ? (
          <p className="text-[var(--muted)]">No projects yet. Drop a photo above.</p>
        ) : (
          <>
            <h2 className="mb-3 text-sm font-semibold">Projects</h2>
            <ul className="grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-5">
              {projects.map((project) => (
                <Card key={project.id} project={project} onDeleted={load} />
              ))}
            </ul>
          </>
        )}
      </main>
      <Toaster
        position="bottom-center"
        theme="system"
        closeButton
        toastOptions={{ style: { fontFamily: "'Hanken Grotesk Variable', sans-serif", fontSize: 13.5 } }}
      />
    </Tooltip.Provider>
  )
}

function Card({ project, onDeleted }: { project: ProjectSummary; onDeleted: () => void }) {
  const [asking, setAsking] = useState(false)
  const remove = async () => {
    try {
      await deleteProject(project.id)
      onDeleted()
    } catch (error) {
      tell(error)
    }
  }
  return (
    <li className="group relative overflow-hidden rounded-xl border border-[var(--line)] hover:border-[var(--line-strong)]">
      <Link href={`/project/${project.id}`} className="block">
        <div className="grid aspect-[3/2] place-items-center overflow-hidden bg-[#8a8a8a]">
          {project.hasCover ? (
            <img
              src={`/api/projects/${project.id}/cover?at=${encodeURIComponent(project.changed)}`}
              alt=""
              className="size-full object-contain"
            />
          ) : (
            <Scissors size={28} className="text-white/60" />
          )}
        </div>
        <div className="px-3.5 py-3 pr-11">
          <p className="truncate text-sm font-semibold">{project.name}</p>
          <p className="text-xs text-[var(--muted)]">
            {project.width} × {project.height} px ·{' '}
            {new Date(project.changed).toLocaleDateString(undefined, {
              day: 'numeric',
              month: 'short',
              year: 'numeric',
            })}
          </p>
        </div>
      </Link>
      <span className="absolute right-2 bottom-3">
        <IconButton label={`Delete ${project.name}`} onClick={() => setAsking(true)}>
          <Trash2 size={15} />
        </IconButton>
      </span>
      <AlertDialog.Root open={asking} onOpenChange={setAsking}>
        <AlertDialog.Portal>
          <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
          <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 w-[400px] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 space-y-4 rounded-xl border border-[var(--line)] bg-[var(--panel)] p-6 shadow-2xl">
            <AlertDialog.Title className="font-semibold">Delete “{project.name}”?</AlertDialog.Title>
            <AlertDialog.Description className="text-[13px] text-[var(--muted)]">
              The project and its history go; its pictures stay stored. This cannot be undone.
            </AlertDialog.Description>
            <div className="flex justify-end gap-2">
              <AlertDialog.Cancel asChild>
                <Button>Keep it</Button>
              </AlertDialog.Cancel>
              <AlertDialog.Action asChild>
                <Button
                  tone="danger"
                  onClick={() => {
                    void remove()
                  }}
                >
                  Delete
                </Button>
              </AlertDialog.Action>
            </div>
          </AlertDialog.Content>
        </AlertDialog.Portal>
      </AlertDialog.Root>
    </li>
  )
}
