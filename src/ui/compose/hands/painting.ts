/** What painting hands share: on which layer paint goes, with what, and where it is allowed. */
import { toast } from 'sonner'
import { type Fill } from '@/core/compose/fill'
import { type FindingStep } from '@/core/steps/registry'
import { layerById } from '@/document/edits'
import { type Edit } from '@/document/history'
import { addLayer } from '@/document/layers'
import { paint } from '@/document/painting'
import { paintLayer } from '@/document/layerRecords'
import { type Project } from '@/document/records'
import { get } from '@/ui/store/bench'

/** Puts paint on the active painted layer, or on a new one above the active layer. Null, and it is said, when that layer is locked or hidden. */
export function painter(project: Project): ((fill: Fill, step: FindingStep | null, erase?: boolean) => Edit) | null {
  const active = layerById(project, project.activeLayer)
  const onto = active?.kind === 'paint' ? active : null
  if (onto?.locked || (onto && !onto.visible)) {
    toast(onto.locked ? `${onto.name} is locked.` : `${onto.name} is hidden: show it to paint on it.`)
    return null
  }
  const layer = onto?.id ?? crypto.randomUUID(),
    item = crypto.randomUUID(),
    within = project.selection
  return (fill, step, erase = false) =>
    (draft) => {
      if (!onto) addLayer(paintLayer(layer, 'Paint', project.canvas), active?.id ?? null)(draft)
      paint(layer, item, { fill, erase, within }, step)(draft)
    }
}
/** True when there is something painted on the active layer to rub out. */
export const canErase = (): boolean => {
  const { project } = get(),
    active = project && layerById(project, project.activeLayer)
  return active?.kind === 'paint'
}
