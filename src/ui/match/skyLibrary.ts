/** The skies every project can take: listed, added, moved, renamed, removed; and read, where nobody has looked at one yet. */
import { toast } from 'sonner'
import { create } from 'zustand'
import { type Fit, fitOf } from '@/core/match/fit'
import { type Measures } from '@/core/match/measure'
import { SKY_PICTURE_VERSION } from '@/core/match/skyPicture'
import { nameOfFile, sendWithProgress, tell } from '@/ui/store/addPictures'
import { askLayers } from '@/ui/store/rendering'
import { addSky, changeSky, listSkies, removeSky, renameSkyGroup, type Sky, type SkyChange } from './skiesOnServer'

interface Library {
  /** Null as long as they have not come. */
  readonly skies: readonly Sky[] | null
  readonly problem: string
  /** How many of those that are being added have been looked at. */
  readonly adding: { readonly done: number; readonly of: number } | null
  /** The group that is shown; null: all. */
  readonly group: string | null
}
export const useSkies = create<Library>(() => ({ skies: null, problem: '', adding: null, group: null }))
const set = useSkies.setState,
  get = useSkies.getState

export interface Ranked {
  readonly sky: Sky
  readonly fit: Fit | null
}
/** Those of a group (null: all), the best fit first; those nobody has read yet come last. */
export const rankedSkies = (
  skies: readonly Sky[],
  photo: Measures | undefined,
  group: string | null,
): readonly Ranked[] =>
  skies
    .filter((sky) => group === null || sky.group === group)
    .map((sky) => ({ sky, fit: photo && sky.reads && isRead(sky) ? fitOf(photo, sky.reads) : null }))
    .sort((a, b) => (b.fit?.score ?? -1) - (a.fit?.score ?? -1))
/** Their names, in the order of the alphabet. */
export const groupsOf = (skies: readonly Sky[]): readonly string[] =>
  [...new Set(skies.map(({ group }) => group))].filter(Boolean).sort((a, b) => a.localeCompare(b))

export const isRead = ({ reads }: Sky): boolean => reads?.version === SKY_PICTURE_VERSION

const said = (error: unknown): string => (error instanceof Error ? error.message : String(error))

export async function loadSkies(): Promise<void> {
  try {
    set({ skies: await listSkies(), problem: '' })
    await readTheRest()
  } catch (error) {
    set({ problem: said(error) })
  }
}

let reading = false
/** One after the other, as long as a project is open. */
async function readTheRest(): Promise<void> {
  if (reading) return
  reading = true
  try {
    for (;;) {
      const sky = get().skies?.find((each) => !isRead(each) && !unreadable.has(each.asset))
      if (!sky) return
      const reads = await askLayers((engine) => engine.readSky(sky.asset))
      if (!reads) return
      if (typeof reads === 'string') unreadable.set(sky.asset, reads)
      else {
        show(sky.asset, { reads })
        await changeSky(sky.asset, { reads })
      }
    }
  } catch {
    // The next time the skies are shown it is tried again.
  } finally {
    reading = false
  }
}
/** Pictures in the library that show no sky, and why. */
export const unreadable = new Map<string, string>()

const show = (asset: string, change: SkyChange): void =>
  set(({ skies }) => ({
    skies: skies?.map((sky) => (sky.asset === asset ? { ...sky, ...change } : sky)) ?? null,
  }))

/** Shown at once; what the server refuses is taken back, and said. */
async function change(now: () => void, send: () => Promise<unknown>): Promise<boolean> {
  const before = get().skies
  now()
  try {
    await send()
    return true
  } catch (error) {
    set({ skies: before })
    toast.error(said(error))
    return false
  }
}
export const renameSky = (asset: string, name: string): Promise<boolean> =>
  change(
    () => show(asset, { name }),
    () => changeSky(asset, { name }),
  )
export const moveSky = (asset: string, group: string): Promise<boolean> =>
  change(
    () => show(asset, { group }),
    () => changeSky(asset, { group }),
  )
/** @param name empty: its skies are in no group */
export const renameGroup = (group: string, name: string): Promise<boolean> =>
  change(
    () =>
      set(({ skies }) => ({
        skies: skies?.map((sky) => (sky.group === group ? { ...sky, group: name } : sky)) ?? null,
      })),
    () => renameSkyGroup(group, name),
  )

export async function takeOut(sky: Sky): Promise<void> {
  const out = await change(
    () => set(({ skies }) => ({ skies: skies?.filter(({ asset }) => asset !== sky.asset) ?? null })),
    () => removeSky(sky.asset),
  )
  if (!out) return
  toast(`${sky.name} is out of the library; projects that show it keep it.`, {
    action: { label: 'Undo', onClick: () => void putBack(sky) },
  })
}
async function putBack({ asset, name, group, reads }: Sky): Promise<void> {
  try {
    await addSky(asset, { name, group, ...(reads ? { reads } : {}) })
    await loadSkies()
  } catch (error) {
    toast.error(said(error))
  }
}

let stopped = false
/** Those that are in stay. */
export const stopAdding = (): void => {
  stopped = true
}

/** Each file that is no picture of a sky says why; the others go on. @param group they go into */
export async function addSkies(files: readonly File[], group: string): Promise<void> {
  const added: string[] = []
  stopped = false
  for (const [i, file] of files.entries()) {
    if (stopped) break
    set({ adding: { done: i, of: files.length } })
    try {
      const { asset } = await sendWithProgress(file),
        known = get().skies?.find((sky) => sky.asset === asset)
      if (known) {
        toast(`${file.name} is in the library already: ${known.name}.`)
        continue
      }
      const reads = await askLayers((engine) => engine.readSky(asset))
      if (!reads) break
      if (typeof reads === 'string') {
        toast.error(`${file.name}: ${reads}`, { duration: 12_000 })
        continue
      }
      const name = nameOfFile(file)
      await addSky(asset, { name, group, reads })
      set({ skies: await listSkies() })
      added.push(name)
    } catch (error) {
      tell(error)
    }
  }
  set({ adding: null })
  if (added.length)
    toast(`${added.length === 1 ? added[0] : `${added.length} of ${files.length}`} in the library of skies.`)
}
