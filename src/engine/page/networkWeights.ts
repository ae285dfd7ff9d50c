/** The network's weights are brought when a worker is first asked for what may need them, to the picture worker before that, while it rests. */
import { type Lesson } from '@/core/network/network'

const LOADS: Record<Lesson, () => Promise<unknown>> = {
  things: () => import('@/core/network/withWeights'),
  sky: () => import('@/core/network/withSkyWeights'),
  water: () => import('@/core/network/withWaterWeights'),
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

/** Before each of them nothing else is asked for so long, ms: they take the time of the thread that answers, and of the server. */
const REST_MS = 1000

/** Brings all of them, one after the other, as long as they are wanted. What cannot be had now is asked for again when it is needed. */
export async function allWeights(wanted: () => boolean): Promise<void> {
  for (const lesson of Object.keys(LOADS) as Lesson[]) {
    await new Promise((rested) => setTimeout(rested, REST_MS))
    if (!wanted()) return
    await networkWeights(lesson).catch(() => {})
  }
}
