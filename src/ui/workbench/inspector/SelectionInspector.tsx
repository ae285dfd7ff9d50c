'use client'
import { shownProject, useBench } from '@/ui/store/bench'
import { InspectorBody, InspectorHead } from './parts'

/** The selection as a whole: where it lies. Its steps, and what can be made of it, are in the list. */
export function SelectionInspector() {
  const steps = useBench((state) => shownProject(state)?.selection.steps.length ?? 0),
    bounds = useBench((state) => (state.home.kind === 'selection' ? state.result?.bounds : null))
  return (
    <>
      <InspectorHead name="Selection" />
      <InspectorBody>
        {steps === 0 ? (
          <p className="text-[13px] leading-relaxed text-[var(--muted)]">
            Nothing is selected yet. Choose a tool on the left and use it on the picture; each use becomes a step, and
            stays editable.
          </p>
        ) : (
          <>
            {bounds && (
              <dl className="space-y-1 text-[13px]">
                <Row name="From" value={`${bounds.x}, ${bounds.y}`} />
                <Row name="Size" value={`${bounds.width} × ${bounds.height} px`} />
              </dl>
            )}
            <p className="text-[13px] leading-relaxed text-[var(--muted)]">
              Choose a step in the list to change it; drag steps to another place in the order.
            </p>
          </>
        )}
      </InspectorBody>
    </>
  )
}
const Row = ({ name, value }: { name: string; value: string }) => (
  <div className="flex justify-between gap-2">
    <dt>{name}</dt>
    <dd className="font-mono text-xs leading-5">{value}</dd>
  </div>
)
