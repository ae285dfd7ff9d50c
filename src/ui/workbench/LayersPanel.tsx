'use client'
/** The layers, top first: what is shown, which one is worked on, its mask, its opacity, its place in the stack. */
import { ArrowDown, ArrowUp, CircleSlash2, Eye, EyeOff, ImagePlus, Trash2 } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { type RefObject, useEffect, useState } from 'react'
import { activateLayer, changeLayer, layerById, moveLayer, removeLayer, removeMask, switchMask } from '@/document/edits'
import { type Layer } from '@/document/types'
import { Bitmap, IconButton, Slider, Tip } from '@/ui/primitives/controls'
import { act, preview, set, shownProject, useBench } from '@/ui/store/bench'
import { type Rendering } from '@/ui/store/rendering'
import { choosePictures } from './addPictures'

const THUMBNAIL_PX = 96

export function LayersPanel({ rendering }: { rendering: RefObject<Rendering | null> }) {
  const project = useBench(shownProject)
  if (!project) return null
  const active = layerById(project, project.activeLayer)
  const at = project.layers.findIndex((layer) => layer.id === active?.id)
  return (
    <section aria-label="Layers" className="flex min-h-0 flex-1 flex-col">
      <header className="flex h-10 shrink-0 items-center gap-0.5 border-b border-[var(--line)] pr-2 pl-3">
        <h2 className="mr-auto text-[13px] font-semibold">Layers</h2>
        <IconButton label="Layer up" why={!active ? 'Choose a layer first.' : at === project.layers.length - 1 ? 'This layer is on top already.' : undefined} onClick={() => act('Layer up', moveLayer(active!.id, at + 1))}><ArrowUp size={16} /></IconButton>
        <IconButton label="Layer down" why={!active ? 'Choose a layer first.' : at === 0 ? 'This layer is the lowest already.' : undefined} onClick={() => act('Layer down', moveLayer(active!.id, at - 1))}><ArrowDown size={16} /></IconButton>
        <IconButton label={`Remove layer${active ? ` ${active.name}` : ''}`} why={active ? undefined : 'Choose a layer first.'} onClick={() => act(`Remove ${active!.name}`, removeLayer(active!.id))}><Trash2 size={15} /></IconButton>
        <AddPicture active={active} />
      </header>
      <ul className="min-h-0 flex-1 overflow-y-auto">
        {[...project.layers].reverse().map((layer) => <LayerRow key={layer.id} layer={layer} active={layer.id === project.activeLayer} rendering={rendering} />)}
        {project.layers.length === 0 && <li className="px-4 py-5 text-[13px] text-[var(--muted)]">No layers. Add a picture.</li>}
      </ul>
      {active && (
        <div className="shrink-0 border-t border-[var(--line)] px-3 py-2">
          <Slider label="Opacity" value={active.opacity * 100} min={0} max={100} step={1} unit="%" fallback={100} onPreview={(v) => preview(changeLayer(active.id, { opacity: v / 100 }))} onSettle={(v) => act('Change opacity', changeLayer(active.id, { opacity: v / 100 }))} />
        </div>
      )}
    </section>
  )
}

function AddPicture({ active }: { active: Layer | undefined }) {
  return (
    <DropdownMenu.Root>
      <Tip text="Add pictures as layers"><DropdownMenu.Trigger aria-label="Add pictures" className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"><ImagePlus size={16} /></DropdownMenu.Trigger></Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="menu">
          {active && <DropdownMenu.Item className="menu-item" onSelect={() => choosePictures(active.id)}>below {active.name} …</DropdownMenu.Item>}
          <DropdownMenu.Item className="menu-item" onSelect={() => choosePictures(null)}>on top …</DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

function useBitmap(make: (() => Promise<ImageBitmap>) | null, key: string): ImageBitmap | undefined {
  const [bitmap, setBitmap] = useState<ImageBitmap>()
  useEffect(() => {
    let gone = false
    make?.().then((made) => { if (!gone) setBitmap(made) }, () => {})
    return () => { gone = true }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key says when to make it anew
  }, [key])
  return bitmap
}

function LayerRow({ layer, active, rendering }: { layer: Layer; active: boolean; rendering: RefObject<Rendering | null> }) {
  const [naming, setNaming] = useState(false)
  const home = useBench((state) => state.home), live = useBench((state) => state.live !== null)
  const thumbnail = useBitmap(() => rendering.current?.engine.layerThumbnail(layer, THUMBNAIL_PX) ?? Promise.reject(new Error()), layer.asset)
  const mask = layer.mask
  const maskBitmap = useBitmap(mask && !live ? () => rendering.current?.engine.maskThumbnail(mask, THUMBNAIL_PX) ?? Promise.reject(new Error()) : null, mask && !live ? JSON.stringify(mask.recipe) : '')
  const editingMask = home.kind === 'mask' && home.layer === layer.id
  const rename = (name: string) => { setNaming(false); if (name.trim() && name !== layer.name) act(`Rename to ${name.trim()}`, changeLayer(layer.id, { name: name.trim().slice(0, 200) })) }
  const activate = () => { if (!active) act(`Choose ${layer.name}`, activateLayer(layer.id)) }
  const openMask = () => { activate(); set({ home: { kind: 'mask', layer: layer.id }, stage: 'select', openStep: mask?.recipe.steps.findLast((step) => step.kind !== 'invert')?.id ?? null, result: null }) }
  return (
    <li className={`flex h-14 items-center gap-2.5 border-b border-[var(--line)] px-3 ${active ? 'bg-[var(--chosen)]' : ''}`} data-layer={layer.name} aria-current={active || undefined}>
      <button type="button" onClick={activate} aria-label={`Work on ${layer.name}`} className="shrink-0"><Bitmap bitmap={thumbnail} width={44} height={32} label={`Picture of ${layer.name}`} /></button>
      {mask && (
        <DropdownMenu.Root>
          <DropdownMenu.Trigger aria-label={`Mask of ${layer.name}`} className={`relative shrink-0 rounded-[4px] ${editingMask ? 'ring-2 ring-[var(--accent)]' : ''} ${mask.enabled ? '' : 'opacity-40'}`}>
            <Bitmap bitmap={maskBitmap} width={44} height={32} label={mask.enabled ? 'Mask' : 'Mask, switched off'} />
            {!mask.enabled && <CircleSlash2 size={18} className="absolute inset-0 m-auto text-white" />}
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="start" sideOffset={4} className="menu">
              <DropdownMenu.Item className="menu-item" onSelect={openMask}>Edit the mask’s steps</DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={() => act(mask.enabled ? 'Mask off' : 'Mask on', switchMask(layer.id, !mask.enabled))}>{mask.enabled ? 'Switch the mask off' : 'Switch the mask on'}</DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={() => { act('Remove mask', removeMask(layer.id)); set({ home: { kind: 'selection' } }) }}>Remove the mask</DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      )}
      {naming
        ? <input autoFocus aria-label="Layer name" defaultValue={layer.name} maxLength={200} onFocus={(event) => event.target.select()} onBlur={(event) => rename(event.target.value)}
            onKeyDown={(event) => { event.stopPropagation(); if (event.key === 'Enter') rename(event.currentTarget.value); if (event.key === 'Escape') setNaming(false) }} className="min-w-0 flex-1 rounded border border-[var(--line-strong)] bg-[var(--field)] px-1 text-[13px]" />
        : (
          <button type="button" onClick={activate} onDoubleClick={() => setNaming(true)} onKeyDown={(event) => { if (event.key === 'F2') setNaming(true) }} title="Double-click or F2 renames" className="min-w-0 flex-1 text-left">
            <span className="block truncate text-[13px] font-semibold">{layer.name}</span>
            <span className="block truncate text-xs text-[var(--muted)]">{[mask ? (mask.enabled ? 'masked' : 'mask off') : `${layer.width} × ${layer.height}`, layer.opacity < 1 && `${Math.round(layer.opacity * 100)} %`].filter(Boolean).join(' · ')}</span>
          </button>
        )}
      <IconButton label={layer.visible ? `Hide ${layer.name}` : `Show ${layer.name}`} onClick={() => act(layer.visible ? `Hide ${layer.name}` : `Show ${layer.name}`, changeLayer(layer.id, { visible: !layer.visible }))}>{layer.visible ? <Eye size={16} /> : <EyeOff size={16} />}</IconButton>
    </li>
  )
}
