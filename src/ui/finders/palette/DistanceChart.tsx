import { useEffect } from 'react'
import { type StepOfKind } from '@/core/steps/registry'
import { chartColours, useChart } from '@/ui/primitives/useChart'
import { useBench } from '@/ui/store/bench'
import { chartKey } from '@/engine/page/keys'

const HEIGHT = 74
/** CIELAB units shown; a share is counted for each half unit. */
const MOST = 100,
  PER_UNIT = 2

interface Props {
  step: StepOfKind<'palette' | 'limitColour'>
  onPreview: (spread: number) => void
  onSettle: (spread: number) => void
}

/** How much of the picture lies how far from the colours, with the spread on it (press or drag to set it) and its soft part. */
export function DistanceChart({ step, onPreview, onSettle }: Props) {
  const known = useBench((state) => (step.id ? state.histograms[step.id] : undefined))
  const fresh = known?.key === chartKey(step)
  const { holder, chart } = useChart()
  const { spread, softness } = step

  useEffect(() => {
    if (!chart || !known) return
    const { ink, blue } = chartColours()
    // The square root keeps small shares in sight beside large ones.
    const data = known.shares.slice(0, MOST * PER_UNIT + 1).map((share, i) => [i / PER_UNIT, Math.sqrt(share)])
    chart.setOption(
      {
        animation: false,
        grid: { left: 1, right: 1, top: 4, bottom: 1 },
        xAxis: { type: 'value', min: 0, max: MOST, show: false },
        yAxis: { type: 'value', min: 0, max: Math.max(0.02, ...data.map(([, v]) => v)), show: false },
        series: [
          {
            type: 'line',
            showSymbol: false,
            silent: true,
            step: 'middle',
            data,
            lineStyle: { color: blue, width: 1.5 },
            areaStyle: { color: blue, opacity: 0.1 },
            markArea: {
              silent: true,
              itemStyle: { color: blue, opacity: 0.16 },
              data: [
                [{ xAxis: 0 }, { xAxis: spread * (1 - softness) }],
                [
                  { xAxis: spread * (1 - softness), itemStyle: { opacity: 0.08 } },
                  { xAxis: Math.min(MOST, spread * (1 + softness)) },
                ],
              ],
            },
            markLine: {
              silent: true,
              symbol: 'none',
              animation: false,
              data: [{ xAxis: spread, lineStyle: { color: ink, width: 1.5, type: 'solid' }, label: { show: false } }],
            },
          },
        ],
      },
      { notMerge: true },
    )
  }, [chart, known, spread, softness])

  const at = (clientX: number): number => {
    const box = holder.current!.getBoundingClientRect()
    return Math.round(2 * Math.min(MOST, Math.max(0, ((clientX - box.left) / box.width) * MOST))) / 2
  }
  return (
    <figure className="mt-0.5">
      <div
        role="slider"
        tabIndex={0}
        aria-label="Spread on the histogram"
        aria-valuemin={0}
        aria-valuemax={MOST}
        aria-valuenow={spread}
        data-histogram={fresh || undefined}
        onKeyDown={(event) => {
          const by = { ArrowRight: 0.5, ArrowUp: 0.5, ArrowLeft: -0.5, ArrowDown: -0.5 }[event.key]
          if (by) {
            event.preventDefault()
            event.stopPropagation()
            onSettle(Math.min(MOST, Math.max(0, spread + by)))
          }
        }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId)
          onPreview(at(event.clientX))
        }}
        onPointerMove={(event) => {
          if (event.currentTarget.hasPointerCapture(event.pointerId)) onPreview(at(event.clientX))
        }}
        onPointerUp={(event) => {
          if (event.currentTarget.hasPointerCapture(event.pointerId)) onSettle(at(event.clientX))
        }}
        className="relative cursor-ew-resize touch-none overflow-hidden rounded-md border border-[var(--line)] bg-[var(--field)]"
        style={{ height: HEIGHT }}
      >
        <div ref={holder} className={`pointer-events-none absolute inset-0 ${known && !fresh ? 'opacity-40' : ''}`} />
        {!known && (
          <p className="absolute inset-0 grid place-items-center text-xs text-[var(--muted)]">
            {step.colours.length ? 'counting …' : 'no colours yet'}
          </p>
        )}
      </div>
      <figcaption className="mt-1 text-xs text-[var(--muted)]">Pixels by distance from the colours</figcaption>
    </figure>
  )
}
