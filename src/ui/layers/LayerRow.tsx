'use client'
import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import {
  ChevronDown,
  ChevronRight,
  CircleSlash2,
  CornerLeftDown,
  Eye,
  EyeOff,
  Folder,
  Lock,
  SlidersHorizontal,
  Sparkles,
} from 'lucide-react'
import { memo, useEffect, useMemo, useRef, useState } from 'react'
import { changeLayer } from '@/document/layers'
import { type Layer } from '@/document/records'
import { adjustmentPage, adjustmentSummary } from '@/ui/adjustments/registry'
import { Bitmap } from '@/ui/primitives/Bitmap'
import { IconButton } from '@/ui/primitives/Button'
import { Naming } from '@/ui/primitives/Naming'
import { act, chooseLayer, set, workOnSteps } from '@/ui/store/bench'
import { askLayers } from '@/ui/store/rendering'
import { MaskMenu } from './MaskMenu'
import { lookKey, maskKey } from '@/engine/page/keys'
import { counted } from '@/ui/primitives/counted'

export const INDENT_PX = 14
const THUMBNAIL_PX = 96

function useBitmap(make: (() => Promise<ImageBitmap> | null) | null, key: string): ImageBitmap | undefined {
  const [bitmap, setBitmap] = useState<ImageBitmap>()
  useEffect(() => {
    let gone = false
    make?.()?.then(
      (made) => {
        if (!gone) setBitmap(made)
      },
      () => {},
    )
    return () => {
      gone = true
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key says when to make it anew
  }, [key])
  return bitmap
}

/** What a value says, as it was before anything was dragged: small pictures are made anew once it is let go, and only of what has changed. */
function useAtRest<T>(value: T, live: boolean, say: (value: T) => string): string {
  const rest = useRef(value)
  if (!live) rest.current = value
  const at = rest.current
  // eslint-disable-next-line react-hooks/exhaustive-deps -- what it says depends on the value alone
  return useMemo(() => say(at), [at])
}

function summaryOf(layer: Layer, inside: number): string {
  const { mask, opacity } = layer
  const own =
    layer.kind === 'picture'
      ? `${layer.width} × ${layer.height}`
      : layer.kind === 'group'
        ? counted(inside, 'layer')
        : layer.kind === 'adjust'
          ? adjustmentSummary(layer.adjustment)
          : layer.kind === 'fill'
            ? layer.fill.kind === 'colour'
              ? layer.fill.colour
              : `${layer.fill.shape} gradient`
            : `${counted(layer.items.length, 'piece')} of paint`
  return [
    layer.blend && layer.blend.replace('-', ' '),
    opacity < 1 && `${Math.round(opacity * 100)} %`,
    mask && (mask.enabled ? 'masked' : 'mask off'),
    own,
  ]
    .filter(Boolean)
    .join(' · ')
}

/** @param inside how many layers lie in it */
export const LayerRow = memo(function LayerRow({
  layer,
  depth,
  inside,
  active,
  focused,
  chosen,
  folded,
  live,
  alone,
  maskFocused,
}: {
  layer: Layer
  depth: number
  inside: number
  active: boolean
  /** It is what is worked on. */
  focused: boolean
  chosen: boolean
  folded: boolean
  /** Something is being dragged. */
  live: boolean
  /** Nothing else is shown. */
  alone: boolean
  /** Its mask, or one of its steps, is. */
  maskFocused: boolean
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: layer.id })
  const [naming, setNaming] = useState(false)
  const looks = useAtRest(layer, live, lookKey)
  const pictured = layer.kind !== 'adjust' && layer.kind !== 'group'
  const thumbnail = useBitmap(
    pictured ? () => askLayers((engine, scene) => engine.layerThumbnail(layer, scene, THUMBNAIL_PX)) : null,
    pictured ? looks : '',
  )
  const mask = layer.mask
  const maskBitmap = useBitmap(
    mask ? () => askLayers((engine, scene) => engine.maskThumbnail(mask, scene.scenes, THUMBNAIL_PX)) : null,
    useAtRest(mask, live, (shown) => (shown ? maskKey(shown) : '')),
  )
  const rename = (name: string) => {
    setNaming(false)
    if (name !== layer.name) act(`Rename to ${name}`, changeLayer(layer.id, { name }))
  }
  const activate = (event?: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean }) => {
    if (event && (event.ctrlKey || event.metaKey || event.shiftKey) && !active) {
      set((state) => ({
        chosen: state.chosen.includes(layer.id)
          ? state.chosen.filter((id) => id !== layer.id)
          : [...state.chosen, layer.id],
      }))
      return
    }
    set({ chosen: [] })
    if (!focused) chooseLayer(layer.id)
  }
  const fold = () =>
    set((state) => ({ folded: folded ? state.folded.filter((id) => id !== layer.id) : [...state.folded, layer.id] }))
  const Icon =
    layer.kind === 'group'
      ? Folder
      : layer.kind === 'adjust' && adjustmentPage(layer.adjustment.kind).group === 'effect'
        ? Sparkles
        : SlidersHorizontal
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition, paddingLeft: 10 + depth * INDENT_PX }}
      {...attributes}
      {...listeners}
      role="listitem"
      tabIndex={-1}
      className={`flex h-[46px] items-center gap-2 border-b border-[var(--line)] pr-2 ${focused || maskFocused ? 'row-focused' : active ? 'row-active' : chosen ? 'bg-[var(--hover)]' : ''} ${isDragging ? 'relative z-10 bg-[var(--panel)] shadow-lg' : ''}`}
      data-layer={layer.name}
      data-depth={depth}
      aria-current={active || undefined}
    >
      {layer.clipped && (
        <CornerLeftDown
          size={14}
          className="-mr-1 shrink-0 text-[var(--muted)]"
          aria-label="Clipped to the layer below"
        />
      )}
      {layer.kind === 'group' && (
        <button
          type="button"
          onClick={fold}
          aria-expanded={!folded}
          aria-label={folded ? `Open ${layer.name}` : `Close ${layer.name}`}
          className="-mr-1 grid size-5 shrink-0 place-items-center rounded hover:bg-[var(--hover)]"
        >
          {folded ? <ChevronRight size={14} /> : <ChevronDown size={14} />}
        </button>
      )}
      <button
        type="button"
        onClick={activate}
        aria-label={`Work on ${layer.name}`}
        className={`shrink-0 ${layer.visible ? '' : 'opacity-45'}`}
      >
        {pictured ? (
          <Bitmap bitmap={thumbnail} width={40} height={30} label={`Picture of ${layer.name}`} />
        ) : (
          <span className="grid h-[30px] w-[40px] place-items-center rounded-[3px] border border-[var(--line)] bg-[var(--field)] text-[var(--muted)]">
            <Icon size={16} />
          </span>
        )}
      </button>
      {mask && (
        <MaskMenu layer={layer} press={() => workOnSteps({ kind: 'mask', layer: layer.id })}>
          <button
            type="button"
            aria-label={`Mask of ${layer.name}`}
            aria-pressed={maskFocused}
            title="Works on the mask; a right click shows what can be done with it"
            className={`relative shrink-0 rounded-[4px] ${maskFocused ? 'ring-2 ring-[var(--accent)]' : ''} ${mask.enabled ? '' : 'opacity-40'}`}
          >
            <Bitmap
              bitmap={maskBitmap}
              width={40}
              height={30}
              label={mask.enabled ? 'Mask' : 'Mask, switched off'}
              className={mask.invert ? 'invert' : ''}
            />
            {!mask.enabled && <CircleSlash2 size={18} className="absolute inset-0 m-auto text-white" />}
          </button>
        </MaskMenu>
      )}
      {naming ? (
        <Naming
          label="Layer name"
          name={layer.name}
          done={rename}
          className="min-w-0 flex-1 rounded px-1 text-[13px]"
        />
      ) : (
        <button
          type="button"
          onClick={activate}
          onDoubleClick={() => setNaming(true)}
          onKeyDown={(event) => {
            if (event.key === 'F2') setNaming(true)
          }}
          title="Double-click or F2 renames; drag to move; Ctrl-click chooses several"
          className="min-w-0 flex-1 text-left"
        >
          <span className="block truncate text-[13px] font-semibold">{layer.name}</span>
          <span className="block truncate text-xs text-[var(--muted)]">{summaryOf(layer, inside)}</span>
        </button>
      )}
      {layer.locked && (
        <IconButton
          label={`Unlock ${layer.name}`}
          onClick={() => act(`Unlock ${layer.name}`, changeLayer(layer.id, { locked: false }))}
          className="!size-6 text-[var(--muted)]"
        >
          <Lock size={13} />
        </IconButton>
      )}
      <IconButton
        label={layer.visible ? `Hide ${layer.name}` : `Show ${layer.name}`}
        aria-pressed={alone || undefined}
        title={alone ? 'Shown alone; Alt-click shows all again' : 'Alt-click shows it alone'}
        onClick={(event) => {
          if (event.altKey) {
            set({ solo: alone ? null : layer.id })
            return
          }
          act(
            layer.visible ? `Hide ${layer.name}` : `Show ${layer.name}`,
            changeLayer(layer.id, { visible: !layer.visible }),
          )
        }}
        className={`!size-7 ${alone ? 'text-[var(--accent-text)]' : ''}`}
      >
        {layer.visible ? <Eye size={16} /> : <EyeOff size={16} />}
      </IconButton>
    </li>
  )
})
