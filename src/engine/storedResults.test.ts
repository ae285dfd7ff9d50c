import { edge as edgeKind } from '@/core/select/modifiers/edge'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { parseStep } from '@/core/formats/recipe'
import { type Matte, type Picture } from '@/core/raster/picture'
import { type CostlyResult } from '@/core/select/finder'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps, resultKeys } from '@/core/select/steps'
import { type Step } from '@/core/steps/registry'
import { canonicalJson } from '@/core/fields/canonical'
import { LruCache } from '@/core/cache/lruCache'
import { nameOf, restore, type StoredResults } from './storedResults'

const picture: Picture = { width: 40, height: 30, data: new Uint8ClampedArray(40 * 30 * 4).fill(200) }
const scene = sceneOf(picture)
const matte = (value: number, width = 40): Matte => ({
  width,
  height: 30,
  data: new Uint8Array(width * 30).fill(value),
})
const steps: Step[] = [
  parseStep({ kind: 'roughBox', id: 'box', box: [4, 4, 30, 20] }),
  parseStep({ kind: 'feather', id: 'soft', radius: 3 }),
  parseStep({ kind: 'ellipse', id: 'more', x: 1, y: 1, width: 9, height: 9 }),
]
const keys = resultKeys(steps, scene)

/** Results in memory of their own, and which of them were read. */
async function storeOf(entries: readonly (readonly [key: string, version: string, matte: Matte | null])[]) {
  const known = new Map<string, { version: string; matte: Matte | null }>(),
    read: string[] = []
  for (const [key, version, matte] of entries) known.set(await nameOf(key), { version, matte })
  const stored: StoredResults = {
    version: (name) => known.get(name)?.version,
    read: (name) => {
      read.push(name)
      return Promise.resolve(known.get(name)?.matte ?? null)
    },
  }
  return { stored, read }
}
afterEach(() => vi.restoreAllMocks())
const { upToHere: soft } = keys[1],
  box = keys[0].finding!

describe('bringing what is stored', () => {
  it('takes the longest beginning, and nothing before it', async () => {
    const memory = new LruCache(1 << 20),
      { stored, read } = await storeOf([
        [soft.key, soft.version, matte(90)],
        [box.key, box.version, matte(255)],
      ])
    expect(await restore(steps, scene, memory, stored)).toEqual(new Map())
    expect(read).toEqual([await nameOf(soft.key)])
    // The fold goes on from there: the ellipse is added to what was brought.
    const { data } = foldSteps(steps, scene, { ...plainContext(), memory })
    expect(data[29 * 40 + 39]).toBe(90)
    expect(data[5 * 40 + 5]).toBe(255)
  })

  it('what an earlier version made is used, and told; what cannot be read or has another size is found anew', async () => {
    const memory = new LruCache(1 << 20),
      { stored } = await storeOf([
        [soft.key, soft.version, matte(1, 39)],
        [box.key, 'roughBox 0', matte(255)],
      ])
    expect(await restore(steps, scene, memory, stored)).toEqual(new Map([[0, await nameOf(box.key)]]))
    expect(memory.get(soft.key)).toBeUndefined()
    const gone = await storeOf([[soft.key, soft.version, null]])
    expect(await restore(steps, scene, new LruCache(1 << 20), gone.stored)).toEqual(new Map())
  })

  it('the names do not depend on the order in which a database writes fields, and on nothing that does not decide', () => {
    const turned = steps.map(
        (step) => Object.fromEntries(Object.entries({ ...step, id: 'other' }).reverse()) as unknown as Step,
      ),
      named = turned.map((step) => ({ ...step, name: 'Called something' }))
    expect(resultKeys(named, scene)).toEqual(keys)
    expect(canonicalJson({ b: [1, { d: 2, c: 3 }], a: null })).toBe('{"a":null,"b":[1,{"c":3,"d":2}]}')
  })

  it('a fold tells what took long, with its version, and nothing of a quick answer', () => {
    const told: CostlyResult[] = []
    // Time goes by in the check that the finder calls.
    let now = 0
    vi.spyOn(performance, 'now').mockImplementation(() => now)
    const slow = (draft: boolean) => ({
      ...plainContext(),
      draft,
      costly: (result: CostlyResult) => void told.push(result),
      check: () => void (now += 310),
    })
    const edge = [steps[2], parseStep({ kind: 'edge', id: 'edge', reach: 3 })]
    foldSteps(edge, scene, slow(false))
    expect(told.map(({ version }) => version)).toContain(`edge ${edgeKind.version},ellipse 1`)
    const count = told.length
    foldSteps(edge, scene, slow(true))
    expect(told).toHaveLength(count)
  })
})
