/** Layers to one picture, by the server, which makes it of the same records with the same code as the page. */
import { toast } from 'sonner'
import { type Picture } from '@/document/types'
import { runExport } from '@/ui/store/exports'

/** @param selected only where the selection selects. Null when it was cancelled or failed, which has been said. */
export async function mergePictures(
  layers: readonly string[],
  name: string,
  selected: boolean,
): Promise<Picture | null> {
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
    toast.error(error instanceof Error ? error.message : String(error))
    return null
  } finally {
    toast.dismiss(id)
  }
}
