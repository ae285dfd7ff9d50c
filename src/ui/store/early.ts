/** A project is asked for, and its pictures opened, while the page that shows it is still being made. */
import { type Project } from '@/document/records'
import { isShown } from '@/document/tree'
import { beginPictures } from '@/engine/page/threads'
import { type OpenProject, openProject } from './server'

/** An answer as old as this is not what is there any more, ms. */
const STALE_MS = 10_000

let coming: { readonly id: string; readonly at: number; readonly project: Promise<OpenProject> } | null = null

export function beginOpening(id: string): void {
  const project = openProject(id)
  coming = { id, at: performance.now(), project }
  beginPictures(project.then(({ records }) => assetsShown(records)))
}
const assetsShown = ({ layers }: Project): string[] => [
  ...new Set(layers.flatMap((layer) => (layer.kind === 'picture' && isShown(layers, layer.id) ? [layer.asset] : []))),
]

/** What was asked for early, once; otherwise it is asked for now. */
export function openedProject(id: string): Promise<OpenProject> {
  const early = coming
  coming = null
  return early?.id === id && performance.now() - early.at < STALE_MS ? early.project : openProject(id)
}
