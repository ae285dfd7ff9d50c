/**
 * Costly results that are stored with a project, so that reopening it, another browser and an export have them at once. A result is named by the
 * SHA-256 of everything that decides it but the version of the algorithms: an older one goes on being used until somebody asks for the new one.
 */
import { type Matte } from '@/core/raster/picture'
import { type Memory, type Scene } from '@/core/select/finder'
import { resultKeys } from '@/core/select/steps'
import { type Step } from '@/core/steps/registry'

export interface StoredResults {
  /** Which versions of the algorithms made the result of this name; undefined where none is stored. */
  version(name: string): string | undefined
  /** Null where it cannot be read now. */
  read(name: string): Promise<Matte | null>
}

export async function nameOf(key: string): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(key))
  return Array.from(new Uint8Array(digest), (byte) => byte.toString(16).padStart(2, '0')).join('')
}

/**
 * Puts into memory what is stored of a list of steps: the longest beginning of it, and what single steps after that found.
 * @returns the names of what other versions of the algorithms made, by the index of the step
 */
export async function restore(
  steps: readonly Step[],
  scene: Scene,
  memory: Memory,
  stored: StoredResults,
): Promise<ReadonlyMap<number, string>> {
  const older = new Map<number, string>()
  const bring = async (i: number, { key, version }: { key: string; version: string }): Promise<boolean> => {
    if (memory.get(key)) return true
    const name = await nameOf(key),
      made = stored.version(name)
    if (made === undefined) return false
    const matte = await stored.read(name)
    if (!matte || matte.width !== scene.width || matte.height !== scene.height) return false
    memory.set(key, matte, matte.data.byteLength)
    if (made !== version) older.set(i, name)
    return true
  }
  const keys = resultKeys(steps, scene)
  for (let i = steps.length - 1; i >= 0; i--) {
    if (await bring(i, keys[i].upToHere)) break
    if (keys[i].finding) await bring(i, keys[i].finding!)
  }
  return older
}
