import { useEffect } from 'react'
import { type StepOfKind } from '@/core/steps/registry'
import { MOST_PREPARED_PIXELS } from '@/engine/page/protocol'
import { ChartSlider, NoChartYet } from '@/ui/primitives/ChartSlider'
import { chartColours, useChart } from '@/ui/primitives/useChart'
import { shownProject, useBench } from '@/ui/store/bench'
import { chartKey } from '@/engine/page/keys'

interface Props {
  step: StepOfKind<'similarColour'>
  onPreview: (tolerance: number) => void
  onSettle: (tolerance: number) => void
}

/** The tolerance curve: the selected area for every tolerance at once, where it spills, and the tolerance in use (press or drag to set it). */
export function ToleranceChart({ step, onPreview, onSettle }: Props) {
  const known = useBench((state) => (step.id ? state.curves[step.id] : undefined))
  const fresh = known && known.key === chartKey(step) ? known.curve : undefined
  const curve = fresh ?? known?.curve // while a new one is measured the old one stays, faded
  // The next spill above the tolerance is the one to beware of; past the last one, that one explains what happened.
  const spill = curve ? (curve.spills.find((t) => t > step.tolerance) ?? curve.spills.at(-1)) : undefined
  const tooLarge = useBench((state) => {
    const canvas = shownProject(state)?.canvas
    return canvas !== undefined && canvas.width * canvas.height > MOST_PREPARED_PIXELS
  })
  const { holder, chart } = useChart()

  useEffect(() => {
    if (!chart || !curve) return
    const { ink, accent, blue } = chartColours()
    chart.setOption(
      {
        animation: false,
        grid: { left: 1, right: 1, top: 4, bottom: 1 },
        xAxis: { type: 'value', min: 0, max: 255, show: false },
        yAxis: { type: 'value', min: 0, max: Math.max(0.02, curve.shares[255]), show: false },
        series: [
          {
            type: 'line',
            showSymbol: false,
            silent: true,
            data: curve.shares.map((share, t) => [t, share]),
            lineStyle: { color: blue, width: 1.75 },
            markArea: {
              silent: true,
              itemStyle: { color: blue, opacity: 0.12 },
              data: [[{ xAxis: 0 }, { xAxis: step.tolerance }]],
            },
            markLine: {
              silent: true,
              symbol: 'none',
              animation: false,
              data: [
                { xAxis: step.tolerance, lineStyle: { color: ink, width: 1.5, type: 'solid' }, label: { show: false } },
                ...(spill === undefined
                  ? []
                  : [
                      {
                        xAxis: spill,
                        lineStyle: { color: accent, width: 1.25, type: 'dashed' as const },
                        label: { show: false },
                      },
                    ]),
              ],
            },
          },
        ],
      },
      { notMerge: true },
    )
  }, [chart, curve, spill, step.tolerance])

  return (
    <ChartSlider
      label="Tolerance on its curve"
      value={step.tolerance}
      most={255}
      step={1}
      says={
        curve
          ? `${step.tolerance}: ${(curve.shares[Math.floor(step.tolerance)] * 100).toFixed(1)} % of the picture${curve.spills.length ? `; spills at ${curve.spills.join(', ')}` : ''}`
          : 'being measured'
      }
      holder={holder}
      faded={curve !== undefined && !fresh}
      caption="Selected area as tolerance grows"
      onPreview={onPreview}
      onSettle={onSettle}
    >
      {spill !== undefined && (
        <span
          className={`pointer-events-none absolute bottom-1 text-[11px] whitespace-nowrap text-[var(--accent-text)] ${spill > 150 ? '-translate-x-full pr-1.5' : 'pl-1.5'}`}
          style={{ left: `${(spill / 255) * 100}%` }}
        >
          spills at {spill}
        </span>
      )}
      {!curve && <NoChartYet words={tooLarge ? 'too large a picture for the curve' : 'measuring every tolerance …'} />}
    </ChartSlider>
  )
}
