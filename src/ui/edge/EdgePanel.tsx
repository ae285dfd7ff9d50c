'use client'
import { useEffect } from 'react'
import { Waves } from 'lucide-react'
import { MarkerSize } from '@/ui/finders/marking/MarkerTool'
import { Button } from '@/ui/primitives/Button'
import { Choice, Switch } from '@/ui/primitives/Choice'
import { goToStage, set, shownSteps, useBench } from '@/ui/store/bench'
import { useFittingReach } from '@/ui/modifiers/edge/fittingReach'
import { SolveWithin, USUAL_REACH } from '@/ui/modifiers/edge/SolveWithin'
import { Compare } from './Compare'
import { addEdgeStep, edgeStepIn } from './edgeStep'

/** How far the edge will be solved; it begins with what the picture says. */
function NextReach() {
  const fitting = useFittingReach(),
    reach = useBench((state) => state.edgeReach),
    change = (edgeReach: number) => set({ edgeReach })
  useEffect(() => set({ edgeReach: fitting }), [fitting])
  return <SolveWithin value={reach ?? USUAL_REACH} fitting={fitting} onPreview={change} onSettle={change} />
}

/** The left column of the Edge stage: what a stroke says, the ribbon. */
export function EdgePanel() {
  const steps = useBench(shownSteps),
    openStep = useBench((state) => state.openStep),
    mode = useBench((state) => state.edgeMode),
    ribbon = useBench((state) => state.ribbon)
  const edge = edgeStepIn(steps, openStep)
  if (!steps.length)
    return (
      <>
        <p className="note mb-2">
          <b>No edge yet</b> — find the subject first; its edge is worked on here.
        </p>
        <Button onClick={() => goToStage('select')}>Go to Select</Button>
      </>
    )
  return (
    <>
      {!edge && (
        <Button
          tone="accent"
          className="mb-4 w-full"
          onClick={() => {
            void addEdgeStep()
            set({ view: 'cutout' })
          }}
        >
          <Waves size={16} />
          Solve the edge
        </Button>
      )}
      <section aria-label="Strokes" className="mb-4 space-y-1.5 px-1">
        <h2 className="text-xs text-[var(--muted)]">A stroke says</h2>
        <Choice
          small
          label="What the next stroke says"
          value={mode}
          options={[
            ['unsure', 'unsure'],
            ['keep', 'keep'],
            ['drop', 'drop'],
          ]}
          onChange={(edgeMode) => set({ edgeMode })}
        />
        <MarkerSize />
        {!edge && <NextReach />}
      </section>
      <Compare />
      <section aria-label="Ribbon" className="mb-3 px-1">
        <Switch label="Edge ribbon" checked={ribbon} onChange={(on) => set({ ribbon: on })} />
      </section>
      <div className="sticky -bottom-3 mt-auto bg-[var(--panel)] pt-1 pb-3">
        <p className="note">
          <b>Edge</b> —{' '}
          {edge
            ? 'brush unsure where hair flies; Shift keeps, Alt drops. Each stroke is solved when you let go.'
            : 'solve it, or brush over hair with unsure: the band around the edge becomes a matte.'}
        </p>
      </div>
    </>
  )
}
