'use client'
import { Ellipsis, Trash2 } from 'lucide-react'
import { removeMask } from '@/document/masks'
import { type Layer, type Project } from '@/document/records'
import { PlacePanel } from '@/ui/compose/PlacePanel'
import { MaskValues } from '@/ui/compose/MaskValues'
import { FringeValues } from '@/ui/edge/FringeValues'
import { MaskMenu } from '@/ui/layers/MaskMenu'
import { IconButton } from '@/ui/primitives/Button'
import { removed } from '@/ui/store/removed'
import { InspectorBody, InspectorHead } from './parts'

/** A mask as a whole: its live values, and the colours of the old backdrop. */
export function MaskInspector({ layer, project }: { layer: Layer; project: Project }) {
  return (
    <>
      <InspectorHead name={`Mask of ${layer.name}`}>
        <MaskMenu layer={layer}>
          <button
            type="button"
            aria-label="More for this mask"
            title="More for this mask"
            className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
          >
            <Ellipsis size={16} />
          </button>
        </MaskMenu>
        <IconButton
          label={`Remove the mask of ${layer.name}`}
          onClick={() => removed('Remove mask', `The mask of ${layer.name}`, removeMask(layer.id))}
        >
          <Trash2 size={15} />
        </IconButton>
      </InspectorHead>
      <InspectorBody>
        <MaskValues layer={layer} />
        {layer.mask?.unlinked && <PlacePanel project={project} />}
        {layer.kind === 'picture' && <FringeValues layer={layer} />}
      </InspectorBody>
    </>
  )
}
