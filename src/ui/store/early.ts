/** A project is asked for, and its pictures opened, while the page that shows it is still being made. */
import { type OpenProject } from '@/document/exchanged'
import { shownPictures } from '@/document/shown'
import { beginPictures } from '@/engine/page/threads'
import { openProject } from './server'

/** An answer as old as this is not what is there any more, ms. */
const STALE_MS = 10_000

interface Coming {
  readonly id: string
  readonly at: number
  readonly project: Promise<OpenProject>
}
let coming: Coming | null = null,
  cover: { readonly id: string; readonly bitmap: Promise<ImageBitmap | null> } | null = null

export function beginOpening(id: string): void {
  const project = openProject(id)
  beginPictures(project.then(({ records }) => shownPictures(records.layers)))
  cover = { id, bitmap: fetchCover(id) }
  coming = { id, at: performance.now(), project }
  project.catch(() => {}) // who opens the project is told
}

/** What was asked for early, once; otherwise it is asked for now. */
export function openedProject(id: string): Promise<OpenProject> {
  const early = coming
  coming = null
  return early?.id === id && performance.now() - early.at < STALE_MS ? early.project : openProject(id)
}

/** How the project looked when it was last shown, small; null where nobody knows. */
export function openedCover(id: string): Promise<ImageBitmap | null> {
  const early = cover
  cover = null
  return early?.id === id ? early.bitmap : fetchCover(id)
}
const fetchCover = (id: string): Promise<ImageBitmap | null> =>
  fetch(`/api/projects/${id}/cover`)
    .then((response) => (response.status === 200 ? response.blob() : null))
    .then((file) => file && createImageBitmap(file))
    .catch(() => null) // the picture itself is on its way
