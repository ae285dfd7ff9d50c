'use client'
import { Trash2 } from 'lucide-react'
import { type Layer, type Project } from '@/document/records'
import { AdjustmentPanel } from '@/ui/adjustments/AdjustmentPanel'
import { adjustmentPage } from '@/ui/adjustments/registry'
import { FillPanel } from '@/ui/compose/FillPanel'
import { PaintPanel } from '@/ui/compose/PaintPanel'
import { PlacePanel } from '@/ui/compose/PlacePanel'
import { problemOfAction, runLayerAction } from '@/ui/layers/layerActions'
import { LaidIn } from '@/ui/layers/LaidIn'
import { IconButton } from '@/ui/primitives/Button'
import { InspectorBody, InspectorHead } from './parts'
import { keyHint } from '@/ui/store/ownKeys'

/** A layer: its own values first, then how it is laid in and where it lies. */
export function LayerInspector({ layer, project }: { layer: Layer; project: Project }) {
  const own = layer.kind === 'adjust' ? adjustmentPage(layer.adjustment.kind).name : undefined
  return (
    <>
      <InspectorHead name={layer.name} of={own === layer.name ? undefined : own}>
        <IconButton
          label={`Remove layer ${layer.name}`}
          keys={keyHint('removeStep', 'Delete')}
          why={problemOfAction('remove')}
          onClick={() => runLayerAction('remove')}
        >
          <Trash2 size={15} />
        </IconButton>
      </InspectorHead>
      <InspectorBody>
        {layer.kind === 'adjust' && <AdjustmentPanel layer={layer} />}
        {layer.kind === 'fill' && <FillPanel layer={layer} />}
        {layer.kind === 'paint' && <PaintPanel layer={layer} />}
        <LaidIn layer={layer} />
        {!(layer.kind === 'adjust' && !layer.mask) && <PlacePanel project={project} />}
      </InspectorBody>
    </>
  )
}
