import { edge } from '@/core/steps/modifiers/edge'
import { Slider } from '@/ui/primitives/Slider'

/** Where the picture tells nothing, px. */
export const USUAL_REACH = edge.fields.reach.fallback!

/** How far on either side of it an edge is solved. @param fitting what the picture says, null where it does not */
export function SolveWithin({
  value,
  fitting,
  onPreview,
  onSettle,
}: {
  value: number
  fitting: number | null
  onPreview: (reach: number) => void
  onSettle: (reach: number) => void
}) {
  return (
    <Slider
      label="Solve within"
      value={value}
      min={0}
      max={200}
      step={0.1}
      digits={1}
      unit="px"
      fallback={fitting ?? USUAL_REACH}
      curve={2.2}
      mark={fitting ?? undefined}
      onPreview={onPreview}
      onSettle={onSettle}
    />
  )
}
