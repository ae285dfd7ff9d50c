/** New layers, above the one worked on. */
import { parseAdjustment, type AdjustmentKind } from '@/core/compose/adjustments/registry'
import { addLayer, addLayerWithin } from '@/document/layers'
import { adjustLayer, fillLayer, paintLayer } from '@/document/layerRecords'
import { type Layer, type Project } from '@/document/records'
import { adjustmentPage } from '@/ui/adjustments/registry'
import { act, get, goToStage, set } from '@/ui/store/bench'
import { type Hand } from '@/ui/store/rooms/tool'
import { newId, now } from './layerActions'

/** A new layer above the active one, and the hand it is worked on with. What is selected becomes its mask; paint is held to the selection anyway. */
function add(label: string, hand: Hand, make: (project: Project) => Layer): void {
  const state = now()
  if (!state) return
  const layer = make(state.project),
    put = layer.kind === 'paint' ? addLayer : addLayerWithin
  act(label, put(layer, state.layer?.id ?? null))
  goToStage('compose')
  set({ chosen: [], hand })
}
export const addColour = () =>
  add('Add colour', 'place', ({ canvas }) =>
    fillLayer(newId(), 'Colour', canvas, { kind: 'colour', colour: get().colour }),
  )
export const addGradient = () =>
  add('Add gradient', 'ramp', ({ canvas }) =>
    fillLayer(newId(), 'Gradient', canvas, {
      kind: 'gradient',
      shape: 'linear',
      from: [canvas.width / 2, canvas.height * 0.1],
      to: [canvas.width / 2, canvas.height * 0.9],
      stops: [
        { at: 0, colour: get().colour, alpha: 1 },
        { at: 1, colour: get().colour, alpha: 0 },
      ],
    }),
  )
export const addPaint = () => add('Add paint', 'brush', ({ canvas }) => paintLayer(newId(), 'Paint', canvas))
export const addAdjustment = (kind: AdjustmentKind) => {
  const page = adjustmentPage(kind)
  add(`Add ${page.name.toLowerCase()}`, 'place', ({ canvas }) =>
    adjustLayer(newId(), page.name, canvas, parseAdjustment({ kind, ...page.start })),
  )
}
