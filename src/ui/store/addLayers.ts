/** Picture files become layers of a project: sent, waiting while the server is away, laid in where they were dropped. */
import { type StoredPicture } from '@/document/exchanged'
import { fileTitle } from '@/document/fileTitle'
import { addPicture } from '@/document/layers'
import { act, get, goToStage } from './bench'
import { sendLeft, sendMany, type Take, TakenLater } from './sendMany'

/** A picture that is on the server becomes a layer. @param below the layer it goes below; null: on top */
export function addStored(
  { asset, width, height, ppi, name }: StoredPicture & { readonly name: string },
  below: string | null,
): void {
  act(`Add ${name}`, addPicture({ asset, width, height, ppi, name }, crypto.randomUUID(), below))
  goToStage('compose')
}

const take: Take = (stored, file, goal) => {
  const { id, phase } = get()
  if (goal.kind !== 'layer') return
  if (id !== goal.project || phase !== 'ready') throw new TakenLater(`“${file.name}” waits for its project.`)
  addStored({ ...stored, name: fileTitle(file.name) }, goal.below)
}

/** @param below the layer they go below; null: on top */
export const addLayers = (files: readonly File[], project: string, below: string | null): void =>
  sendMany(files, { kind: 'layer', project, below }, take)
/** What an earlier visit could not send comes in now. */
export const addLeft = (project: string): Promise<void> =>
  sendLeft((goal) => goal.kind === 'layer' && goal.project === project, take)
