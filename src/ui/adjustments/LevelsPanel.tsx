'use client'
import { useMemo, useState } from 'react'
import { type Levels, levelsCurve } from '@/core/compose/adjustments/levels'
import { Choice } from '@/ui/primitives/Choice'
import { Slider } from '@/ui/primitives/Slider'
import { type AdjustmentPanelProps } from './panel'
import { type Channel, CHANNELS, ToneChart } from './ToneChart'
import { useHistogram } from './useHistogram'

const HEIGHT = 96
/** Place in the record, its name, and how it is shown: 8-bit values, and the gamma as it is. */
const VALUES: readonly (readonly [
  at: number,
  label: string,
  min: number,
  max: number,
  factor: number,
  digits: number,
  fallback: number,
])[] = [
  [0, 'Black', 0, 255, 255, 0, 0],
  [1, 'Gamma', 0.1, 10, 1, 2, 1],
  [2, 'White', 0, 255, 255, 0, 255],
  [3, 'Black to', 0, 255, 255, 0, 0],
  [4, 'White to', 0, 255, 255, 0, 255],
]

export function LevelsPanel({ layer, record, preview, settle }: AdjustmentPanelProps<'levels'>) {
  const [channel, setChannel] = useState<Channel>('all')
  const counts = useHistogram(layer),
    levels = record[channel]
  const curve = useMemo(() => {
    const of = levelsCurve(levels)
    return Array.from({ length: 65 }, (_, i) => of(i / 64))
  }, [levels])
  const lines = useMemo(() => [levels[0], levels[2]], [levels])
  const changed = (at: number, value: number) => ({
    [channel]: levels.map((v, i) => (i === at ? value : v)) as unknown as Levels,
  })
  return (
    <>
      <Choice small label="Channel" value={channel} options={CHANNELS} onChange={setChannel} />
      <ToneChart counts={counts} channel={channel} curve={curve} lines={lines} height={HEIGHT} />
      {VALUES.map(([at, label, min, max, factor, digits, fallback]) => (
        <Slider
          key={label}
          label={label}
          value={levels[at] * factor}
          min={min}
          max={max}
          step={10 ** -digits}
          digits={digits}
          unit=""
          fallback={fallback}
          curve={at === 1 ? 3 : 1}
          onPreview={(v) => preview(changed(at, v / factor))}
          onSettle={(v) => settle(`Change levels, ${label.toLowerCase()}`, changed(at, v / factor))}
        />
      ))}
    </>
  )
}
