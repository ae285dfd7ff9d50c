import { type StepOfKind } from '@/core/steps/registry'
import { useBench } from '@/ui/store/bench'
import { type HandlesProps } from '../finder'

/** Where the colour was picked, with the tolerance and the share selected beside it. */
export function Handles({ step, toScreen }: HandlesProps<StepOfKind<'similarColour'>>) {
  const result = useBench((state) => state.result)
  const [x, y] = toScreen(step.at[0], step.at[1])
  return (
    <g pointerEvents="none">
      <circle cx={x} cy={y} r={7.5} fill="none" stroke="#fff" strokeWidth={4} />
      <circle cx={x} cy={y} r={7.5} fill="none" stroke="#1b1b1b" strokeWidth={1.75} />
      <circle cx={x} cy={y} r={1.5} fill="#1b1b1b" />
      <foreignObject x={x + 14} y={y - 26} width={210} height={30}>
        <div className="inline-block rounded-md bg-[#1b1b1b] px-2 py-1 font-mono text-[11.5px] whitespace-nowrap text-white">
          <b>{step.tolerance}</b> of 255{result ? ` · ${(result.selected * 100).toFixed(1)} %` : ''}
        </div>
      </foreignObject>
    </g>
  )
}
