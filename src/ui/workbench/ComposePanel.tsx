'use client'
import { FlipHorizontal2, FlipVertical2, Maximize2, Minimize2, Scan } from 'lucide-react'
import { compose, translation } from '@/core/raster/affine'
import { changeLayer, layerById } from '@/document/edits'
import { IconButton, NumberField } from '@/ui/primitives/controls'
import { act, shownProject, useBench } from '@/ui/store/bench'
import { flipped, placedInMiddle, placementOf, scaledAbout, turnedAboutMiddle } from './canvas/placement'

const FAR = 1e6

/** Where the active layer lies: typed, or by the handles on the canvas. */
export function ComposePanel() {
  const project = useBench(shownProject)
  const layer = project ? layerById(project, project.activeLayer) : undefined
  if (!project || !layer) return <p className="note">Choose a layer on the right to place it.</p>
  const { x, y, scale, turn } = placementOf(layer.placement)
  const place = (label: string, placement: typeof layer.placement) => act(`${label} ${layer.name}`, changeLayer(layer.id, { placement }))
  const field = (label: string, value: number, unit: string, digits: number, min: number, max: number, settle: (value: number) => void) => (
    <label className="flex items-center justify-between text-[13px]">{label}<NumberField label={label} value={value} min={min} max={max} unit={unit} digits={digits} className="w-24" onSettle={settle} /></label>
  )
  return (
    <>
      <h3 className="mb-2 truncate px-1 text-xs text-[var(--muted)]">Place {layer.name}</h3>
      <div className="mb-3 space-y-0.5 px-1">
        {field('X', x, 'px', 1, -FAR, FAR, (value) => place('Move', compose(translation(value - x, 0), layer.placement)))}
        {field('Y', y, 'px', 1, -FAR, FAR, (value) => place('Move', compose(translation(0, value - y), layer.placement)))}
        {field('Scale', scale * 100, '%', 1, 0.5, 10_000, (value) => place('Scale', scaledAbout(layer.placement, value / 100 / scale, x, y)))}
        {field('Turn', turn, '°', 1, -360, 360, (value) => place('Turn', turnedAboutMiddle(layer.placement, layer, value - turn)))}
      </div>
      <div className="mb-3 flex justify-between">
        <IconButton label="Fit into the canvas" onClick={() => place('Fit', placedInMiddle(layer, project.canvas, 'fit'))}><Minimize2 size={16} /></IconButton>
        <IconButton label="Cover the canvas" onClick={() => place('Cover with', placedInMiddle(layer, project.canvas, 'cover'))}><Maximize2 size={16} /></IconButton>
        <IconButton label="Own size, in the middle" onClick={() => place('Own size of', placedInMiddle(layer, project.canvas, 'own'))}><Scan size={16} /></IconButton>
        <IconButton label="Flip left to right" onClick={() => place('Flip', flipped(layer.placement, layer, true))}><FlipHorizontal2 size={16} /></IconButton>
        <IconButton label="Flip top to bottom" onClick={() => place('Flip', flipped(layer.placement, layer, false))}><FlipVertical2 size={16} /></IconButton>
      </div>
      <p className="note"><b>Place</b> — drag on the picture to move the active layer, its corners to scale it (Alt: about its middle), the round grip to turn it. Arrow keys move by 1 px, with Shift by 10.</p>
    </>
  )
}
