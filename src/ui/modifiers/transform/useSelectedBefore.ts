import { useEffect, useState } from 'react'
import { type Box } from '@/core/raster/content'
import { type StepOfKind } from '@/core/steps/registry'
import { useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'

/**
 * The box around what the steps before this one select, px of the steps: what is moved, scaled and turned, whatever comes after it.
 * Undefined until it is known, null where nothing is selected.
 */
export function useSelectedBefore({ id }: StepOfKind<'transform'>): Box | null | undefined {
  const [box, setBox] = useState<Box | null>()
  // Looked at again when an answer has come that nothing is being dragged in: what comes before is remembered then.
  const answer = useBench((state) => (state.live || state.selecting ? undefined : state.result))
  useEffect(() => {
    if (!answer) return
    let newest = true
    askEngine((engine, request) =>
      engine.selectedBox({
        ...request,
        steps: request.steps.slice(
          0,
          request.steps.findIndex((s) => s.id === id),
        ),
      }),
    )?.then(
      (found) => {
        if (newest) setBox(found)
      },
      () => {}, // what cannot be selected is said where it is shown
    )
    return () => {
      newest = false
    }
  }, [answer, id])
  return box
}
