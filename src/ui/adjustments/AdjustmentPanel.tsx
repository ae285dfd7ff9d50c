'use client'
import { adjustmentOf } from '@/core/compose/adjustments/registry'
import { type Field } from '@/core/fields/fields'
import { changeAdjustment } from '@/document/skyLikeLand'
import { type AdjustLayer } from '@/document/records'
import { Slider } from '@/ui/primitives/Slider'
import { act, preview } from '@/ui/store/bench'
import { adjustmentPage, hasSome } from './registry'

/** The values of an adjustment or effect; they stay values, and can be changed at any time. */
export function AdjustmentPanel({ layer, words = true }: { layer: AdjustLayer; words?: boolean }) {
  const { adjustment } = layer,
    page = adjustmentPage(adjustment.kind)
  const edit = (values: object) => changeAdjustment(layer.id, { ...adjustment, ...values })
  const Panel = page.Panel
  return (
    <section aria-label={page.name} className="space-y-2" data-adjustment={adjustment.kind}>
      {Panel && (
        <Panel
          layer={layer.id}
          record={adjustment as never}
          preview={(values) => preview(edit(values))}
          settle={(label, values) => act(label, edit(values))}
        />
      )}
      {page.values
        .filter(({ needs }) => !needs || hasSome(adjustment, needs))
        .map(({ field, label, min, max, digits, unit, factor, curve }) => {
          const value = (adjustment as unknown as Record<string, number>)[field],
            measured = (layer.measured as unknown as Record<string, number> | undefined)?.[field],
            usual = (adjustmentOf(adjustment).fields as Record<string, Field<number>>)[field].fallback!
          return (
            <Slider
              key={field}
              label={label}
              value={value * factor}
              min={min}
              max={max}
              step={10 ** -digits}
              digits={digits}
              unit={unit}
              fallback={(measured ?? usual) * factor}
              mark={measured === undefined ? undefined : measured * factor}
              curve={curve}
              onPreview={(v) => preview(edit({ [field]: v / factor }))}
              onSettle={(v) => act(`Change ${label.toLowerCase()}`, edit({ [field]: v / factor }))}
            />
          )
        })}
      {words && (
        <p className="text-xs leading-relaxed text-[var(--muted)]">
          {page.words}
          {layer.clipped
            ? ' It changes the layer below it only.'
            : ' It changes everything below it; clipped, only the layer below.'}
        </p>
      )}
    </section>
  )
}
