'use client'
import { useEffect } from 'react'
import { chartColours, useChart } from '@/ui/primitives/useChart'
import { type Histogram } from './useHistogram'

export type Channel = 'all' | 'red' | 'green' | 'blue'
export const CHANNELS: readonly (readonly [Channel, string])[] = [
  ['all', 'all'],
  ['red', 'R'],
  ['green', 'G'],
  ['blue', 'B'],
]
const LINES: Record<Exclude<Channel, 'all'>, string> = { red: '#c0392b', green: '#2e8b57', blue: '#3867d6' }

interface Props {
  counts: Histogram | null
  channel: Channel
  /** What the tones become, 0-1 at each of 256 places. */ curve?: readonly number[]
  /** Upright lines, 0-1. */ lines?: readonly number[]
  height: number
  children?: React.ReactNode
}

/** The histogram of what is adjusted, by luma or one channel, with the tone curve or its ends over it. */
export function ToneChart({ counts, channel, curve, lines, height, children }: Props) {
  const { holder, chart } = useChart()
  useEffect(() => {
    if (!chart) return
    const { ink, muted } = chartColours()
    const at = channel === 'all' ? 3 : channel === 'red' ? 0 : channel === 'green' ? 1 : 2
    // The square root keeps small counts in sight beside large ones.
    const data = counts ? [...counts[at]].map((count, i) => [i / 255, Math.sqrt(count)]) : []
    const colour = channel === 'all' ? muted : LINES[channel]
    chart.setOption(
      {
        animation: false,
        grid: { left: 0, right: 0, top: 0, bottom: 0 },
        xAxis: {
          type: 'value',
          min: 0,
          max: 1,
          show: true,
          splitNumber: 4,
          splitLine: { show: true, lineStyle: { color: muted, opacity: 0.18 } },
          axisLabel: { show: false },
          axisTick: { show: false },
          axisLine: { show: false },
        },
        yAxis: [
          { type: 'value', min: 0, max: Math.max(1, ...data.map(([, v]) => v)) * 1.04, show: false },
          { type: 'value', min: 0, max: 1, show: false },
        ],
        series: [
          {
            type: 'line',
            showSymbol: false,
            silent: true,
            data,
            lineStyle: { width: 0 },
            areaStyle: { color: colour, opacity: 0.4 },
          },
          ...(curve
            ? [
                {
                  type: 'line',
                  yAxisIndex: 1,
                  showSymbol: false,
                  silent: true,
                  data: curve.map((v, i) => [i / (curve.length - 1), v]),
                  lineStyle: { color: ink, width: 1.6 },
                },
              ]
            : []),
          ...(lines
            ? [
                {
                  type: 'line',
                  yAxisIndex: 1,
                  silent: true,
                  data: [],
                  markLine: {
                    silent: true,
                    symbol: 'none',
                    animation: false,
                    label: { show: false },
                    lineStyle: { color: ink, width: 1.4, type: 'solid' },
                    data: lines.map((x) => ({ xAxis: x })),
                  },
                },
              ]
            : []),
        ],
      },
      { notMerge: true },
    )
  }, [chart, counts, channel, curve, lines])
  return (
    <div
      className="relative overflow-hidden rounded-md border border-[var(--line)] bg-[var(--field)]"
      style={{ height }}
      data-tones={counts ? counts[3].reduce((a, b) => a + b, 0) : undefined}
    >
      <div ref={holder} className="pointer-events-none absolute inset-0" />
      {!counts && <p className="absolute inset-0 grid place-items-center text-xs text-[var(--muted)]">counting …</p>}
      {children}
    </div>
  )
}
