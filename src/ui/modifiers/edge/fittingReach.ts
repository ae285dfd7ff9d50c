import { useEffect, useState } from 'react'
import { type Step } from '@/core/steps/registry'
import { useSameList } from '@/ui/primitives/useSameList'
import { get, shownSteps, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'

/** How far the edge of what steps select is worth being solved, px; null where the picture does not tell. */
export const fittingReach = async (steps: readonly Step[] = shownSteps(get())): Promise<number | null> =>
  (await askEngine((engine, request) => engine.fittingReach({ ...request, steps }))?.catch(() => null)) ?? null

/** The same for the steps before an edge step, or all where there is none: looked at again once things rest. */
export function useFittingReach(edge?: string): number | null {
  const [reach, setReach] = useState<number | null>(null),
    steps = useBench(shownSteps),
    ready = useBench((state) => state.result !== null && state.live === null)
  const at = steps.findIndex(({ id }) => id === edge),
    before = useSameList(at < 0 ? steps : steps.slice(0, at))
  useEffect(() => {
    if (!ready) return
    let current = true
    void fittingReach(before).then((found) => {
      if (current) setReach(found)
    })
    return () => {
      current = false
    }
  }, [before, ready])
  return reach
}
