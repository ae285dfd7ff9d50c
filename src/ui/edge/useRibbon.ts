import { useEffect, useState } from 'react'
import { layerById } from '@/document/edits'
import { type UnrolledEdge } from '@/engine/page/protocol'
import { shownProject, useBench } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'

/** The boundary of what is shown, unrolled anew with every result; null where there is none. */
export function useRibbon(): UnrolledEdge | null {
  const [edge, setEdge] = useState<UnrolledEdge | null>(null)
  const result = useBench((state) => state.result)
  // The layer's fringe as text: a new record of the same values asks for nothing.
  const fringe = useBench((state) => {
    const project = shownProject(state),
      mask = project && state.home.kind === 'mask' ? layerById(project, state.home.layer)?.mask : null
    return mask && (mask.fringe || mask.rim) ? JSON.stringify({ amount: mask.fringe ?? 0, rim: mask.rim ?? 0 }) : ''
  })
  useEffect(() => {
    let current = true
    if (!result) {
      setEdge(null)
      return
    }
    askEngine((engine, request) =>
      engine.ribbon(request, fringe ? (JSON.parse(fringe) as { amount: number; rim: number }) : null),
    )?.then(
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
