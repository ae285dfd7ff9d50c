/** Costly results of the project that is open: brought from the server before they would be found again, and handed on to be kept once things rest. */
import { type Matte } from '@/core/raster/picture'
import { type CostlyResult, type Memory, type Scene } from '@/core/select/finder'
import { resultKeys } from '@/core/select/steps'
import { type Step } from '@/core/steps/registry'
import { nameOf, restore, type StoredResults } from '../../storedResults'
import { type KeepableResult } from '../protocol'
import { shared } from './decode'

/** Results are handed on when nothing costly has been found for so long, ms: while a slider moves there are many. */
const REST_MS = 2000
/** Of those that wait, the newest so many are kept: each may be a matte of the whole picture. */
const MOST_WAITING = 4

let address = '',
  keep: (result: KeepableResult) => void = () => {},
  bring: (address: string) => Promise<Matte | null> = () => Promise.resolve(null)
let list = Promise.resolve(new Map<string, string>())
const waiting = new Map<string, CostlyResult>()
let rest: ReturnType<typeof setTimeout> | undefined

/** @param project whose results are stored and brought @param handOn keeps one @param read reads one from its address */
export function openResultsOf(project: string, handOn: typeof keep, read: typeof bring): void {
  address = `/api/projects/${project}/results`
  keep = handOn
  bring = read
  list = fetch(address)
    .then(async (response) => {
      const { results } = (await response.json()) as { results: { name: string; version: string }[] }
      return new Map(results.map(({ name, version }) => [name, version]))
    })
    .catch(() => new Map<string, string>()) // then everything is found anew
}

/** What is on its way: a mask and its selection ask for the same. */
const coming = new Map<string, Promise<Matte | null>>()
const stored = (versions: ReadonlyMap<string, string>): StoredResults => ({
  version: (name) => versions.get(name),
  read(name) {
    const matte = coming.get(name) ?? bring(`${address}/${name}`).finally(() => coming.delete(name))
    coming.set(name, matte)
    return matte
  },
})

/** Steps whose result was made by an earlier version of their algorithms, by id, with the names of those results. */
const older = new Map<string, string>()
export const madeByOlder = (steps: readonly Step[]): string[] =>
  steps.flatMap(({ id }) => (id && older.has(id) ? [id] : []))

/** Brings what is stored of these steps into memory. @returns whether all they come to is there then */
export async function bringStored(steps: readonly Step[], scene: Scene, memory: Memory): Promise<boolean> {
  const versions = await list
  if (!steps.length) return false
  if (versions.size)
    for (const [i, name] of await restore(steps, scene, memory, stored(versions)))
      if (steps[i].id) older.set(steps[i].id, name)
  return memory.get(resultKeys(steps, scene).at(-1)!.upToHere.key) !== undefined
}

/** Lets go of what earlier versions made of these steps: they are found anew. */
export async function renewStored(steps: readonly Step[], forget: () => void): Promise<void> {
  const versions = await list
  for (const id of madeByOlder(steps)) {
    const name = older.get(id)!
    older.delete(id)
    versions.delete(name)
    void fetch(`${address}/${name}`, { method: 'DELETE' }).catch(() => {}) // the new one takes its place
  }
  forget()
}

export function keepCostly(result: CostlyResult): void {
  if (!address) return
  waiting.delete(result.key)
  waiting.set(result.key, result)
  if (waiting.size > MOST_WAITING) waiting.delete(waiting.keys().next().value!)
  clearTimeout(rest)
  rest = setTimeout(handOn, REST_MS)
}

async function handOn(): Promise<void> {
  const versions = await list
  for (const [key, { matte, version }] of waiting) {
    waiting.delete(key)
    const name = await nameOf(key)
    if (versions.get(name) === version) continue
    versions.set(name, version)
    const data = new Uint8Array(shared(matte.data.length))
    data.set(matte.data)
    keep({ address: `${address}/${name}`, version, matte: { width: matte.width, height: matte.height, data } })
  }
}
