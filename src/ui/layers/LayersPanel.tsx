'use client'
/** The layers, top first: what is shown, which one is worked on, how each is laid in, in which group it lies. */
import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'
import { useMemo } from 'react'
import { BLEND_MODES, type BlendMode } from '@/core/compose/modes'
import { layerById } from '@/document/edits'
import { changeLayer, moveLayer } from '@/document/layers'
import { childrenOf, type Row, rowsOf } from '@/document/tree'
import { type Layer } from '@/document/types'
import { restrictToVerticalAxis } from '@dnd-kit/modifiers'
import { IconButton } from '@/ui/primitives/Button'
import { Select } from '@/ui/primitives/Choice'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview, shownProject, useBench } from '@/ui/store/bench'
import { useSameList } from '@/ui/primitives/useSameList'
import { AddMenu } from './AddMenu'
import { problemOfAction, runLayerAction } from './layerActions'
import { LayerMenu } from './LayerMenu'
import { LayerRow, INDENT_PX } from './LayerRow'

/** Made once: new ones would draw every row of the list anew. */
const ALONG_THE_LIST = [restrictToVerticalAxis],
  BY_POINTER = { activationConstraint: { distance: 5 } }
const MODES = BLEND_MODES.map((mode) => [mode, mode[0].toUpperCase() + mode.slice(1).replace('-', ' ')] as const)

export function LayersPanel() {
  const project = useBench(shownProject),
    folded = useBench((state) => state.folded),
    chosen = useBench((state) => state.chosen),
    live = useBench((state) => state.live !== null),
    solo = useBench((state) => state.solo),
    maskOpen = useBench(({ home }) => (home.kind === 'mask' ? home.layer : null))
  const layers = project?.layers
  const rows = useMemo(() => (layers ? rowsOf(layers, new Set(folded)) : []), [layers, folded])
  const ids = useSameList(rows.map((row) => row.layer.id))
  const sensors = useSensors(useSensor(PointerSensor, BY_POINTER))
  if (!project) return null
  const active = layerById(project, project.activeLayer)
  return (
    <section aria-label="Layers" className="flex min-h-0 flex-1 flex-col">
      <header className="flex h-10 shrink-0 items-center gap-0.5 border-b border-[var(--line)] pr-2 pl-3">
        <h2 className="mr-auto text-[13px] font-semibold">Layers</h2>
        <IconButton label="Layer up" keys="Alt+↑" why={problemOfAction('up')} onClick={() => runLayerAction('up')}>
          <ArrowUp size={16} />
        </IconButton>
        <IconButton
          label="Layer down"
          keys="Alt+↓"
          why={problemOfAction('down')}
          onClick={() => runLayerAction('down')}
        >
          <ArrowDown size={16} />
        </IconButton>
        <IconButton
          label={`Remove layer${active ? ` ${active.name}` : ''}`}
          why={problemOfAction('remove')}
          onClick={() => runLayerAction('remove')}
        >
          <Trash2 size={15} />
        </IconButton>
        <LayerMenu layer={active} />
        <AddMenu active={active} />
      </header>
      {active && <LaidIn layer={active} />}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        modifiers={ALONG_THE_LIST}
        onDragEnd={(event) => dropRow(event, rows, project.layers, folded)}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ul className="min-h-0 flex-1 overflow-y-auto">
            {rows.map(({ layer, depth }) => (
              <LayerRow
                key={layer.id}
                layer={layer}
                depth={depth}
                inside={layer.kind === 'group' ? childrenOf(project.layers, layer.id).length : 0}
                active={layer.id === project.activeLayer}
                chosen={chosen.includes(layer.id)}
                folded={folded.includes(layer.id)}
                live={live}
                alone={solo === layer.id}
                maskOpen={maskOpen === layer.id}
              />
            ))}
            {rows.length === 0 && (
              <li className="px-4 py-5 text-[13px] text-[var(--muted)]">
                No layers. Add a picture, a colour or paint.
              </li>
            )}
          </ul>
        </SortableContext>
      </DndContext>
    </section>
  )
}

/** How the active layer is laid over what is below it. */
function LaidIn({ layer }: { layer: Layer }) {
  const through = layer.kind === 'group' && layer.passThrough
  const mode: BlendMode | 'through' = through && !layer.blend ? 'through' : (layer.blend ?? 'normal')
  const options = layer.kind === 'group' ? ([['through', 'Passed through'], ...MODES] as const) : MODES
  const choose = (next: string) =>
    act(
      `Blend ${layer.name}: ${next}`,
      changeLayer(
        layer.id,
        next === 'through'
          ? { blend: 'normal', passThrough: true }
          : { blend: next as BlendMode, ...(layer.kind === 'group' ? { passThrough: false } : {}) },
      ),
    )
  return (
    <div className="shrink-0 border-b border-[var(--line)] px-3 py-1.5">
      <div className="flex items-center gap-2 text-[13px]">
        <span className="w-[64px] shrink-0">Blend</span>
        <Select
          label={`How ${layer.name} is blended`}
          value={mode}
          options={options as readonly (readonly [string, string])[]}
          onChange={choose}
          className="flex-1"
        />
      </div>
      <Slider
        label="Opacity"
        value={layer.opacity * 100}
        min={0}
        max={100}
        step={1}
        unit="%"
        fallback={100}
        onPreview={(v) => preview(changeLayer(layer.id, { opacity: v / 100 }))}
        onSettle={(v) => act('Change opacity', changeLayer(layer.id, { opacity: v / 100 }))}
      />
    </div>
  )
}

/** Below the row it is dropped under, in the same group; right under an open group: on top in it; dragged to the left: out of the group. */
function dropRow(
  { active, over, delta }: DragEndEvent,
  rows: readonly Row[],
  layers: readonly Layer[],
  folded: readonly string[],
): void {
  const from = rows.findIndex((row) => row.layer.id === active.id),
    to = rows.findIndex((row) => row.layer.id === over?.id)
  if (!over || from < 0 || to < 0 || (from === to && delta.x > -INDENT_PX)) return
  const moved = rows[from].layer
  if (moved.locked) return
  const rest = rows.filter((row) => row.layer.id !== moved.id)
  const above = rest[to - 1]
  let parent: string | undefined, below: string | undefined // the layer it comes to lie right under
  if (above?.layer.kind === 'group' && !folded.includes(above.layer.id)) parent = above.layer.id
  else if (above) {
    parent = above.layer.parent
    below = above.layer.id
  }
  for (let out = Math.floor(-delta.x / INDENT_PX); out > 0 && parent; out--) {
    below = parent
    parent = layers.find((l) => l.id === parent)!.parent
  }
  const siblings = childrenOf(layers, parent).filter((l) => l.id !== moved.id)
  const place = below ? siblings.findIndex((l) => l.id === below) : siblings.length
  act(`Move ${moved.name}`, moveLayer(moved.id, Math.max(0, place), parent ?? null))
}
