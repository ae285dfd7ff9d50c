/** What is done with projects on the shelf. */
import { toast } from 'sonner'
import { type ProjectSummary, type StoredPicture } from '@/document/exchanged'
import { projectOf } from '@/document/edits'
import {
  call,
  createProject,
  deleteProject,
  openProject,
  sendActs,
  sendFile,
  type SendProgress,
} from '@/ui/store/server'
import { say } from '@/ui/store/say'

/** @returns the new project's id */
export async function projectOfPicture({ asset, width, height, ppi }: StoredPicture, name: string): Promise<string> {
  const id = crypto.randomUUID()
  await createProject(id, projectOf(name, { asset, width, height, name, ppi }, crypto.randomUUID()))
  return id
}

/** How far the server is with a file is asked so often, ms. */
const ASK_MS = 400
/** A project file or an OpenRaster file as a new project. Half the way is sending it, half taking it in. */
export async function importProject(file: File, progress: SendProgress, signal: AbortSignal): Promise<{ id: string }> {
  const name = crypto.randomUUID()
  let asking: ReturnType<typeof setInterval> | undefined
  const ask = () =>
    call<{ progress: number }>(`/api/projects/import/${name}`).then(
      (taken) => progress(0.5 + taken.progress / 2),
      () => {}, // not begun, or over
    )
  try {
    return await sendFile(
      '/api/projects/import',
      file,
      { 'x-import': name },
      (sent) => {
        progress(sent / 2)
        if (sent === 1) asking ??= setInterval(() => void ask(), ASK_MS)
      },
      signal,
    )
  } finally {
    clearInterval(asking)
  }
}
export const isProjectFile = ({ name }: File): boolean => /\.(ora|zip)$/i.test(name)

export const duplicateProject = (id: string): Promise<{ id: string }> =>
  call(`/api/projects/${id}/duplicate`, { method: 'POST' })

/** A change like any other: it stands in the project's history. */
export async function renameProject(id: string, name: string): Promise<void> {
  const { head, revision, records } = await openProject(id)
  const change = (to: string) => ({ fields: { set: { name: to } } })
  const act = {
    id: crypto.randomUUID(),
    parent: head,
    label: 'Rename',
    forward: change(name),
    inverse: change(records.name),
    at: new Date().toISOString(),
  }
  const { moved } = await sendActs(id, { acts: [act], head: act.id, revision, sending: crypto.randomUUID() })
  if (!moved) throw new Error(`“${records.name}” was changed elsewhere at the same time; rename it again.`)
}

/** Until then a deletion can be taken back, ms. */
const UNDO_MS = 8000
/** Deletions that can still be taken back. */
const waiting = new Map<string, ReturnType<typeof setTimeout>>()
/** Those that cannot: a list that was read before still has them. */
const gone = new Set<string>()

/** They go from the list at once, and for good a little later, or when the page is left. @param shown is told what is hidden now */
export function removeProjects(
  projects: readonly ProjectSummary[],
  shown: (hidden: ReadonlySet<string>) => void,
): void {
  const tell = () => shown(new Set([...waiting.keys(), ...gone]))
  for (const { id } of projects)
    waiting.set(
      id,
      setTimeout(() => void finish(id).then(tell), UNDO_MS),
    )
  tell()
  const [first] = projects
  toast(projects.length === 1 ? `Deleted “${first.name}”.` : `Deleted ${projects.length} projects.`, {
    duration: UNDO_MS,
    action: {
      label: 'Undo',
      onClick: () => {
        for (const { id } of projects) {
          clearTimeout(waiting.get(id))
          waiting.delete(id)
        }
        tell()
      },
    },
  })
}
/** One that the server did not take away is shown again. */
async function finish(id: string): Promise<void> {
  waiting.delete(id)
  gone.add(id)
  try {
    await deleteProject(id)
  } catch (error) {
    gone.delete(id)
    say(error)
  }
}
/** To be called when the page is left. */
export function finishRemoving(): void {
  for (const [id, timer] of waiting) {
    clearTimeout(timer)
    gone.add(id)
    void fetch(`/api/projects/${id}`, { method: 'DELETE', keepalive: true }).catch(() => {})
  }
  waiting.clear()
}
