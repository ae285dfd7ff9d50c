'use client'
import { type RefObject } from 'react'
import { LayersPanel } from '@/ui/layers/LayersPanel'
import { shownProject, useBench } from '@/ui/store/bench'
import { drawsSteps, focusOf } from '@/ui/store/focus'
import { type Rendering } from '@/ui/store/rendering'
import { SelectionRow } from './SelectionRow'
import { StepList } from './StepList'

/** The one list: the selection, then the layers, top first. Whose steps are worked on shows them below its row. */
export function ListPanel({ rendering }: { rendering: RefObject<Rendering | null> }) {
  const home = useBench((state) => state.home),
    kind = useBench((state) => {
      const project = shownProject(state)
      return project ? focusOf(state, project).kind : null
    }),
    draws = useBench((state) => drawsSteps(state.stage))
  const steps = draws || kind !== 'layer' ? <StepList rendering={rendering} /> : null
  const of = home.kind === 'mask' ? home.layer : null
  return (
    <LayersPanel
      first={
        <>
          <SelectionRow focused={kind === 'selection' || (kind === 'step' && !of)} />
          {!of && steps}
        </>
      }
      opened={of && steps ? { layer: of, content: steps } : null}
      maskFocused={of && kind !== 'layer' ? of : null}
      layerFocused={kind === 'layer'}
    />
  )
}
