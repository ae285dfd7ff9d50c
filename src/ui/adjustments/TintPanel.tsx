'use client'
import { tint } from '@/core/compose/adjustments/tint'
import { type Hex } from '@/core/compose/fill'
import { ColourField } from '@/ui/primitives/ColourField'
import { Slider } from '@/ui/primitives/Slider'
import { type AdjustmentPanelProps } from './panel'

export function TintPanel({ record, preview, settle }: AdjustmentPanelProps<'tint'>) {
  return (
    <>
      <ColourField
        label="Colour"
        value={record.colour}
        onPreview={(colour: Hex) => preview({ colour })}
        onSettle={(colour: Hex) => settle('Change tint', { colour })}
      />
      <Slider
        label="Amount"
        value={record.amount * 100}
        min={0}
        max={100}
        step={1}
        unit="%"
        fallback={tint.fields.amount.fallback! * 100}
        onPreview={(v) => preview({ amount: v / 100 })}
        onSettle={(v) => settle('Change tint', { amount: v / 100 })}
      />
    </>
  )
}
