/** A project of its own from what is selected: all layers with what colours them, in a group that shows only the selection; the window lies around it. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { keepable } from '@/document/limits'
import { produce } from 'immer'
import { toast } from 'sonner'
import { groupLayers } from '@/document/layers'
import { maskWith } from '@/document/masks'
import { type Project } from '@/document/records'
import { setWindow } from '@/document/window'
import { unwrap } from '@/document/unwrap'
import { get } from '@/ui/store/bench'
import { createProject } from '@/ui/store/server'

export function selectionAsProject(
  project: Project,
  bounds: { x: number; y: number; width: number; height: number },
  newId: () => string,
): Project {
  return produce(project, (records) => {
    const draft = records,
      group = newId(),
      recipe = unwrap(project.selection)
    groupLayers(
      project.layers.filter((layer) => !layer.parent).map((layer) => layer.id),
      group,
      'Selected',
      false,
    )(draft)
    maskWith(draft, group, recipe)
    draft.selection.steps = []
    setWindow({
      cx: bounds.x + bounds.width / 2,
      cy: bounds.y + bounds.height / 2,
      width: bounds.width,
      height: bounds.height,
      turn: 0,
    })(draft)
    draft.name = keepable(`${project.name}, a piece`)
  })
}

export async function newProjectFromSelection(project: Project): Promise<void> {
  const { result, home } = get(),
    bounds = result?.bounds
  if (home.kind !== 'selection' || !bounds) {
    toast('Show the selection’s own steps, and let it be made first.')
    return
  }
  const id = crypto.randomUUID()
  try {
    await createProject(
      id,
      selectionAsProject(project, bounds, () => crypto.randomUUID()),
    )
    toast.success('A project was made of what is selected.', {
      duration: 12_000,
      action: { label: 'Open it', onClick: () => window.location.assign(`/project/${id}`) },
    })
  } catch (error) {
    toast.error(sentenceOf(error))
  }
}
