import { useEffect, useState } from 'react'
import { layerById } from '@/document/edits'
import { type UnrolledEdge } from '@/engine/page/protocol'
import { shownProject, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { useSameOf } from '@/ui/primitives/useSame'
import { type BenchState } from '@/ui/store/benchState'

/** The boundary of what is shown, unrolled anew with every result; null where there is none. */
export function useRibbon(): UnrolledEdge | null {
  const [edge, setEdge] = useState<UnrolledEdge | null>(null)
  const result = useBench((state) => state.result)
  const fringe = useBench(
    useSameOf((state: BenchState) => {
      const project = shownProject(state),
        mask = project && state.home.kind === 'mask' ? layerById(project, state.home.layer)?.mask : null
      return mask && (mask.fringe || mask.rim) ? { amount: mask.fringe ?? 0, rim: mask.rim ?? 0 } : null
    }),
  )
  useEffect(() => {
    let current = true
    if (!result) {
      setEdge(null)
      return
    }
    askEngine((engine, request) => engine.ribbon(request, fringe))?.then(
      (made) => {
        if (current && made) setEdge(made)
      },
      () => {},
    )
    return () => {
      current = false
    }
  }, [result, fringe])
  return edge
}
