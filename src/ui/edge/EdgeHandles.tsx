import { type RecipeHome } from '@/document/records'
import { MarkRing, MarkStrokes } from '@/ui/finders/marking/strokes'
import { shownSteps, useBench } from '@/ui/store/bench'
import { type HandlesProps } from '@/ui/finders/finder'
import { edgeStepIn } from './edgeStep'

/** Strokes along the edge, the brush, and where the pointer is on the ribbon. */
export function EdgeHandles({
  toScreen,
  pointer,
}: Pick<HandlesProps<unknown>, 'toScreen' | 'pointer'> & { home: RecipeHome }) {
  const steps = useBench(shownSteps),
    openStep = useBench((state) => state.openStep),
    mode = useBench((state) => state.edgeMode),
    at = useBench((state) => state.ribbonAt)
  const step = edgeStepIn(steps, openStep),
    onRibbon = at && toScreen(at[0], at[1])
  return (
    <>
      {step && !step.hidden && <MarkStrokes strokes={step.strokes} toScreen={toScreen} slim />}
      <MarkRing toScreen={toScreen} pointer={pointer ?? onRibbon} mode={mode} />
      {onRibbon && (
        <g pointerEvents="none" data-ribbon-place={at.map(Math.round).join(' ')}>
          <circle cx={onRibbon[0]} cy={onRibbon[1]} r={4} fill="#fff" stroke="#1b1b1b" strokeWidth={1.5} />
        </g>
      )}
    </>
  )
}
