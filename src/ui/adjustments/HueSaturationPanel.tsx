'use client'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { type HueRange } from '@/core/compose/adjustments/hueSaturation'
import { IconButton } from '@/ui/primitives/Button'
import { Slider } from '@/ui/primitives/Slider'
import { type AdjustmentPanelProps } from './panel'

/** Where colours lie on the OKLCh hue circle, degrees. Source of the hues: OKLab of the sRGB primaries and their mixtures. */
const HUES: readonly (readonly [name: string, hue: number])[] = [
  ['Reds', 29],
  ['Oranges', 60],
  ['Yellows', 110],
  ['Greens', 142],
  ['Cyans', 195],
  ['Blues', 264],
  ['Purples', 310],
  ['Pinks', 350],
]
const START = { width: 40, soft: 20, turn: 0, saturation: 0, lightness: 0 } as const
const swatch = (hue: number): string => `oklch(0.68 0.16 ${hue})`

export function HueSaturationPanel({ record, preview, settle }: AdjustmentPanelProps<'hueSaturation'>) {
  const [open, setOpen] = useState<number | null>(null)
  const range = open === null ? undefined : record.ranges[open]
  const of = (values: Partial<HueRange>) => ({
    ranges: record.ranges.map((each, i) => (i === open ? { ...each, ...values } : each)),
  })
  const add = (hue: number) => {
    const known = record.ranges.findIndex((each) => Math.abs(each.hue - hue) < 0.5)
    if (known >= 0) {
      setOpen(open === known ? null : known)
      return
    }
    settle('Add hue range', { ranges: [...record.ranges, { ...START, hue }] })
    setOpen(record.ranges.length)
  }
  const slider = (
    label: string,
    value: number,
    min: number,
    max: number,
    fallback: number,
    unit: string,
    show: (v: number) => object,
  ) => (
    <Slider
      key={label}
      label={label}
      value={value}
      min={min}
      max={max}
      step={1}
      unit={unit}
      fallback={fallback}
      onPreview={(v) => preview(show(v))}
      onSettle={(v) => settle(`Change ${label.toLowerCase()}`, show(v))}
    />
  )
  return (
    <>
      <div role="group" aria-label="Part of the hue circle" className="flex items-center gap-1">
        <button
          type="button"
          aria-pressed={!range}
          onClick={() => setOpen(null)}
          className="rounded-md px-1.5 py-0.5 text-xs font-medium aria-pressed:bg-[var(--ink)] aria-pressed:text-[var(--panel)]"
        >
          all
        </button>
        {HUES.map(([name, hue]) => {
          const at = record.ranges.findIndex((each) => Math.abs(each.hue - hue) < 0.5)
          return (
            <button
              key={name}
              type="button"
              aria-label={name}
              title={name}
              aria-pressed={open !== null && open === at}
              onClick={() => add(hue)}
              className={`size-[15px] rounded-full border-2 ${at >= 0 ? 'border-[var(--ink)]' : 'border-transparent'} aria-pressed:outline-2 aria-pressed:outline-offset-1 aria-pressed:outline-[var(--accent)]`}
              style={{ background: swatch(hue) }}
            />
          )
        })}
      </div>
      {range ? (
        <>
          {slider('Hue', range.turn, -180, 180, 0, '°', (v) => of({ turn: v }))}
          {slider('Saturation', range.saturation * 100, -100, 100, 0, '%', (v) => of({ saturation: v / 100 }))}
          {slider('Lightness', range.lightness * 100, -100, 100, 0, '%', (v) => of({ lightness: v / 100 }))}
          {slider('Middle', range.hue, 0, 360, range.hue, '°', (v) => of({ hue: v }))}
          {slider('Width', range.width, 1, 360, 40, '°', (v) => of({ width: v }))}
          {slider('Softness', range.soft, 0, 180, 20, '°', (v) => of({ soft: v }))}
          <div className="flex justify-end">
            <IconButton
              label="Remove this hue range"
              onClick={() => {
                settle('Remove hue range', { ranges: record.ranges.filter((_, i) => i !== open) })
                setOpen(null)
              }}
            >
              <Trash2 size={14} />
            </IconButton>
          </div>
        </>
      ) : (
        <>
          {slider('Hue', record.turn, -180, 180, 0, '°', (v) => ({ turn: v }))}
          {slider('Saturation', record.saturation * 100, -100, 100, 0, '%', (v) => ({ saturation: v / 100 }))}
          {slider('Lightness', record.lightness * 100, -100, 100, 0, '%', (v) => ({ lightness: v / 100 }))}
        </>
      )}
    </>
  )
}
