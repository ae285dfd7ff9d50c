import { useEffect } from 'react'
import { type StepOfKind } from '@/core/steps/registry'
import { ChartSlider, NoChartYet } from '@/ui/primitives/ChartSlider'
import { chartColours, useChart } from '@/ui/primitives/useChart'
import { useBench } from '@/ui/store/bench'
import { chartKey } from '@/engine/page/keys'

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

  return (
    <div data-histogram={fresh || undefined}>
      <ChartSlider
        label="Spread on the histogram"
        value={spread}
        most={MOST}
        step={1 / PER_UNIT}
        holder={holder}
        faded={known !== undefined && !fresh}
        caption="Pixels by distance from the colours"
        onPreview={onPreview}
        onSettle={onSettle}
      >
        {!known && <NoChartYet words={step.colours.length ? 'counting …' : 'no colours yet'} />}
      </ChartSlider>
    </div>
  )
}
