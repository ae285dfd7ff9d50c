/** The matte of a list of steps, published where every thread sees it. */
import { halfSize, halveMatte, levelCount } from '@/core/raster/levels'
import { type Matte, type Size } from '@/core/raster/picture'
import { tallyOf } from '@/core/raster/tally'
import { type Scene } from '@/core/select/finder'
import { resultKeys, stepNotes } from '@/core/select/steps'
import { type SelectRequest, type SelectResult, type SharedMatte } from '../protocol'
import { shared } from './decode'
import { prepareLater } from './prepare'
import { madeByOlder, renewStored } from './results'
import { run, sceneOf, studio } from './work'

/** The result is written to one of three places in turn: one shown, one being taken over, one being written. */
const RESULT_SLOTS = 3
const slots: { size: Size; levels: Matte[] }[] = []
let slot = 0

/** Copies a matte into the next result place, its mip levels made there. */
function publish(matte: Matte): SharedMatte {
  slot = (slot + 1) % RESULT_SLOTS
  let place = slots[slot]
  if (!place || place.size.width !== matte.width || place.size.height !== matte.height) {
    const levels: Matte[] = []
    let size: Size = matte
    for (let n = levelCount(matte); n > 0; n--, size = halfSize(size))
      levels.push({ width: size.width, height: size.height, data: new Uint8Array(shared(size.width * size.height)) })
    place = slots[slot] = { size: { width: matte.width, height: matte.height }, levels }
  }
  const [full, ...coarser] = place.levels
  full.data.set(matte.data)
  // What is shared is slower to read than what is this thread's own.
  coarser.reduce((finer, level) => halveMatte(finer, level), matte)
  return place.levels.map(({ width, height, data }) => ({ width, height, data }))
}

export const select = (request: SelectRequest, wanted: () => boolean): Promise<SelectResult | null> =>
  run('Selecting', wanted, (context) => {
    const scene = sceneOf(request, context.check),
      matte = studio.matte(request.steps, scene, context.check, request.draft)
    context.check(0.95)
    const result = {
      matte: publish(matte),
      ...tallyOf(matte),
      notes: notesOf(request, scene),
      older: madeByOlder(request.steps),
    }
    prepareLater(request)
    return result
  })

/** What there is to say of the steps shown. */
function notesOf({ steps, draft }: SelectRequest, scene: Scene): Record<string, string> {
  return Object.fromEntries(
    stepNotes(steps, scene, { memory: studio.memory, check: () => {}, draft }).flatMap((note, i) =>
      note && steps[i].id && !steps[i].hidden ? [[steps[i].id, note]] : [],
    ),
  )
}

/** What earlier versions made of the steps is forgotten. */
export const renew = (request: SelectRequest): Promise<void> =>
  renewStored(request.steps, () => {
    for (const { upToHere, finding } of resultKeys(request.steps, sceneOf(request)))
      for (const key of [upToHere.key, finding?.key]) if (key) studio.memory.set(key, undefined, 0)
  })
