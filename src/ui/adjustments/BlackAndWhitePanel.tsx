'use client'
import { blackAndWhite } from '@/core/compose/adjustments/blackAndWhite'
import { Slider } from '@/ui/primitives/Slider'
import { type AdjustmentPanelProps } from './panel'

const SHARES = [
  ['red', 'Red'],
  ['green', 'Green'],
  ['blue', 'Blue'],
] as const

export function BlackAndWhitePanel({ record, preview, settle }: AdjustmentPanelProps<'blackAndWhite'>) {
  const sum = record.red + record.green + record.blue
  return (
    <>
      {SHARES.map(([field, label]) => (
        <Slider
          key={field}
          label={label}
          value={record[field] * 100}
          min={-100}
          max={200}
          step={1}
          unit="%"
          fallback={blackAndWhite.fields[field].fallback! * 100}
          onPreview={(v) => preview({ [field]: v / 100 })}
          onSettle={(v) => settle(`Change share of ${label.toLowerCase()}`, { [field]: v / 100 })}
        />
      ))}
      {Math.abs(sum - 1) > 0.01 && (
        <p className="text-xs text-[var(--muted)]">
          The shares add up to {Math.round(sum * 100)} %: at 100 % white stays white.{' '}
          {sum > 0 && (
            <button
              type="button"
              className="underline underline-offset-2"
              onClick={() =>
                settle('Shares to 100 %', { red: record.red / sum, green: record.green / sum, blue: record.blue / sum })
              }
            >
              Make it 100 %
            </button>
          )}
        </p>
      )}
    </>
  )
}
