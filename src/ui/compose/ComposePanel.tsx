'use client'
/** The left column while composing: the hands, the active layer's own values, and its mask's. */
import { layerById, setLinear } from '@/document/edits'
import { AdjustmentPanel } from '@/ui/adjustments/AdjustmentPanel'
import { adjustmentPage } from '@/ui/adjustments/registry'
import { Select } from '@/ui/primitives/Choice'
import { act, set, shownProject, useBench } from '@/ui/store/bench'
import { FillPanel } from './FillPanel'
import { handPage, HANDS } from './hands/registry'
import { MaskPanel } from './MaskPanel'
import { PaintPanel } from './PaintPanel'

const heading = 'mb-1.5 truncate px-1 text-xs text-[var(--muted)]'

export function ComposePanel() {
  const project = useBench(shownProject),
    chosen = useBench((state) => state.hand)
  if (!project) return null
  const layer = layerById(project, project.activeLayer),
    hand = handPage(chosen)
  return (
    <>
      <div role="radiogroup" aria-label="What the pointer does" className="mb-3 grid grid-cols-2 gap-1">
        {HANDS.map(({ id, name, icon: Icon }) => (
          <button
            key={id}
            type="button"
            role="radio"
            aria-checked={chosen === id}
            onClick={() => set({ hand: id })}
            className="flex items-center gap-1.5 rounded-lg px-2 py-1.5 text-[13px] font-medium hover:bg-[var(--hover)] aria-checked:bg-[var(--ink)] aria-checked:text-[var(--panel)]"
          >
            <Icon size={15} className="shrink-0" />
            {name}
          </button>
        ))}
      </div>
      {layer && chosen !== 'crop' && (
        <h3 className={heading}>{layer.kind === 'adjust' ? adjustmentPage(layer.adjustment.kind).name : layer.name}</h3>
      )}
      {chosen !== 'crop' && layer?.kind === 'adjust' && <AdjustmentPanel key={layer.id} layer={layer} />}
      {chosen !== 'crop' && layer?.kind === 'fill' && <FillPanel key={layer.id} layer={layer} />}
      {hand.Panel && !(chosen === 'place' && layer?.kind === 'adjust' && !layer.mask) && (
        <hand.Panel project={project} />
      )}
      {chosen !== 'crop' && layer?.kind === 'paint' && <PaintPanel key={layer.id} layer={layer} />}
      {chosen !== 'crop' && layer?.mask && <MaskPanel key={`mask ${layer.id}`} layer={layer} />}
      {!(chosen === 'place' && layer?.kind === 'adjust') && (
        <p className="note">
          <b>{hand.name}</b> — {hand.hint}
        </p>
      )}
      <div className="mt-3 flex items-center justify-between px-1 text-xs text-[var(--muted)]">
        Blended in
        <Select
          label="What colours are blended in"
          value={project.linear ? 'light' : 'srgb'}
          options={[
            ['srgb', 'sRGB values'],
            ['light', 'linear light'],
          ]}
          onChange={(next) =>
            act(next === 'light' ? 'Blend in linear light' : 'Blend in sRGB', setLinear(next === 'light'))
          }
        />
      </div>
    </>
  )
}
