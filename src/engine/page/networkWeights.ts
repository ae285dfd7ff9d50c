/** The network's weights are brought when a worker is first asked for what may need them. */
import { type Lesson } from '@/core/network/network'

const LOADS: Record<Lesson, () => Promise<unknown>> = {
  things: () => import('@/core/network/withWeights'),
  water: () => import('@/core/network/withWaterWeights'),
  anchors: () => import('@/core/network/withAnchorsWeights'),
  sky: () => import('@/core/network/withSkyWeights'),
  horizon: () => import('@/core/network/withHorizonWeights'),
}
const coming = new Map<Lesson, Promise<unknown>>()

/** Throws a sentence when they cannot be had now; the next one who asks tries again. */
export function networkWeights(lesson: Lesson = 'things'): Promise<unknown> {
  const known = coming.get(lesson)
  if (known) return known
  const asked = LOADS[lesson]().catch(() => {
    coming.delete(lesson)
    throw new Error('A part of the application could not be loaded: try again when the server can be reached.')
  })
  coming.set(lesson, asked)
  return asked
}
