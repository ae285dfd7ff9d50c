import { useEffect, useMemo, useState } from 'react'
import { layersBelow } from '@/document/tree'
import { shownProject, useBench } from '@/ui/store/bench'
import { askLayers } from '@/ui/store/rendering'
import { lookKey } from '@/engine/page/keys'

const AFTER_MS = 120
/** Red, green, blue, luma: 256 counts each, of what an adjustment works on. */
export type Histogram = readonly Uint32Array[]

/** Counted anew once what lies below the layer rests. */
export function useHistogram(layer: string): Histogram | null {
  const layers = useBench((state) => shownProject(state)?.layers)
  const below = useMemo(() => (layers ? layersBelow(layers, layer).map(lookKey).join('\n') : ''), [layers, layer])
  const [counts, setCounts] = useState<Histogram | null>(null)
  useEffect(() => {
    let gone = false
    const timer = setTimeout(() => {
      askLayers((engine, scene) => engine.histogram(layer, scene))?.then(
        (made) => {
          if (!gone) setCounts(made)
        },
        () => {},
      )
    }, AFTER_MS)
    return () => {
      gone = true
      clearTimeout(timer)
    }
  }, [layer, below])
  return counts
}
