'use client'
/** The layers, top first: what is shown, which one is worked on, how each is laid in, in which group it lies. */
import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { ArrowDown, ArrowUp } from 'lucide-react'
import { Fragment, type ReactNode, useMemo } from 'react'
import { layerById } from '@/document/edits'
import { moveLayer } from '@/document/layers'
import { childrenOf, type Row, rowsOf } from '@/document/tree'
import { type Layer } from '@/document/records'
import { restrictToVerticalAxis } from '@dnd-kit/modifiers'
import { IconButton } from '@/ui/primitives/Button'
import { act, shownProject, useBench } from '@/ui/store/bench'
import { useSameList } from '@/ui/primitives/useSameList'
import { AddMenu } from './AddMenu'
import { problemOfAction, runLayerAction } from './layerActions'
import { LayerMenu } from './LayerMenu'
import { LayerRow, INDENT_PX } from './LayerRow'
import { keepFocus, rove } from '@/ui/primitives/roving'
import { keyHint } from '@/ui/store/ownKeys'
import { withId } from '@/document/withId'

/** Made once: new ones would draw every row of the list anew. */
const ALONG_THE_LIST = [restrictToVerticalAxis],
  BY_POINTER = { activationConstraint: { distance: 5 } }

/**
 * @param first what stands before the layers
 * @param opened what is shown below a layer's row
 * @param maskFocused the layer whose mask, or one of its steps, is worked on
 * @param layerFocused the active layer itself is
 */
export function LayersPanel({
  first,
  opened,
  maskFocused,
  layerFocused,
}: {
  first: ReactNode
  opened: { readonly layer: string; readonly content: ReactNode } | null
  maskFocused: string | null
  layerFocused: boolean
}) {
  const project = useBench(shownProject),
    folded = useBench((state) => state.folded),
    chosen = useBench((state) => state.chosen),
    live = useBench((state) => state.live !== null),
    solo = useBench((state) => state.solo)
  const layers = project?.layers
  const rows = useMemo(() => (layers ? rowsOf(layers, new Set(folded)) : []), [layers, folded])
  const ids = useSameList(rows.map((row) => row.layer.id))
  const sensors = useSensors(useSensor(PointerSensor, BY_POINTER))
  if (!project) return null
  const active = layerById(project, project.activeLayer)
  return (
    <section aria-label="Layers" className="flex min-h-0 flex-1 flex-col border-b border-[var(--line)]">
      <header className="flex h-10 shrink-0 items-center gap-0.5 border-b border-[var(--line)] pr-2 pl-3">
        <h2 className="mr-auto text-[13px] font-semibold">Layers</h2>
        <IconButton
          label="Layer up"
          keys={keyHint('layer up', 'Alt+ArrowUp')}
          why={problemOfAction('up')}
          onClick={() => runLayerAction('up')}
        >
          <ArrowUp size={16} />
        </IconButton>
        <IconButton
          label="Layer down"
          keys={keyHint('layer down', 'Alt+ArrowDown')}
          why={problemOfAction('down')}
          onClick={() => runLayerAction('down')}
        >
          <ArrowDown size={16} />
        </IconButton>
        <LayerMenu layer={active} />
        <AddMenu active={active} />
      </header>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        modifiers={ALONG_THE_LIST}
        onDragEnd={(event) => dropRow(event, rows, project.layers, folded)}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ul className="min-h-0 flex-1 overflow-y-auto" onKeyDown={rove} onMouseDown={keepFocus}>
            <li>{first}</li>
            {rows.map(({ layer, depth }) => (
              <Fragment key={layer.id}>
                <LayerRow
                  layer={layer}
                  depth={depth}
                  inside={layer.kind === 'group' ? childrenOf(project.layers, layer.id).length : 0}
                  active={layer.id === project.activeLayer}
                  focused={layerFocused && layer.id === project.activeLayer}
                  chosen={chosen.includes(layer.id)}
                  folded={folded.includes(layer.id)}
                  live={live}
                  alone={solo === layer.id}
                  maskFocused={maskFocused === layer.id}
                />
                {opened?.layer === layer.id && <li>{opened.content}</li>}
              </Fragment>
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
    parent = withId(layers, parent)!.parent
  }
  const siblings = childrenOf(layers, parent).filter((l) => l.id !== moved.id)
  const place = below ? siblings.findIndex((l) => l.id === below) : siblings.length
  act(`Move ${moved.name}`, moveLayer(moved.id, Math.max(0, place), parent ?? null))
}
