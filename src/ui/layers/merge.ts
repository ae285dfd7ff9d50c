/** Layers to one picture, by the server, which makes it of the same records with the same code as the page. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { toast } from 'sonner'
import { mergeInto } from '@/document/layers'
import { withDescendants } from '@/document/tree'
import { type Picture, type Project } from '@/document/records'
import { act, get } from '@/ui/store/bench'
import { runExport } from '@/ui/store/exports'

/** How often a merge begins again because its layers were changed meanwhile. */
const TRIES = 3

/**
 * Merges layers as one act. What was changed in them meanwhile is merged, too; another layer that was chosen meanwhile stays chosen.
 * @param instead the picture takes their place; otherwise it comes above them
 * @param selected only where the selection selects
 */
export async function mergeLayers(
  ids: readonly string[],
  name: string,
  label: string,
  { instead = false, selected = false } = {},
): Promise<boolean> {
  const { id } = get()
  for (let tries = 0; tries < TRIES; tries++) {
    const before = get().project
    const picture = await mergePictures(ids, name, selected)
    const after = get().project
    if (!picture || !before || !after || get().id !== id) return false
    if (instead && !sameLayers(before, after, ids)) continue
    return act(label, mergeInto(picture, crypto.randomUUID(), ids, instead, after.activeLayer === before.activeLayer))
  }
  toast('The layers were changed again and again while they were merged, so they stay as they are.')
  return false
}
/** Records that were not changed are the same objects. */
const sameLayers = (before: Project, after: Project, ids: readonly string[]): boolean =>
  before.linear === after.linear &&
  ids.every((id) => {
    const was = withDescendants(before.layers, id),
      is = withDescendants(after.layers, id)
    return was.length === is.length && was.every((layer, i) => layer === is[i])
  })

/** Null when it was cancelled or failed, which has been said. */
async function mergePictures(layers: readonly string[], name: string, selected: boolean): Promise<Picture | null> {
  const id = `merge ${crypto.randomUUID()}`
  let cancelled = false
  const show = (progress: number) =>
    toast.loading(`Merging · ${Math.round(progress * 100)} %`, {
      id,
      duration: Infinity,
      action: {
        label: 'Cancel',
        onClick: () => {
          cancelled = true
        },
      },
    })
  try {
    show(0)
    const done = await runExport(
      { what: 'merge', layers: [...layers], selected, format: 'png', quality: 100, background: '#ffffff' },
      show,
      () => cancelled,
    )
    return done?.picture ? { ...done.picture, name } : null
  } catch (error) {
    toast.error(sentenceOf(error))
    return null
  } finally {
    toast.dismiss(id)
  }
}
