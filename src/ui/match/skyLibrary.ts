/** The library's skies: ranked, added, and read, where nobody has looked at one yet. */
import { toast } from 'sonner'
import { create } from 'zustand'
import { type Fit, fitOf } from '@/core/match/fit'
import { type Measures } from '@/core/match/measure'
import { SKY_PICTURE_VERSION } from '@/core/match/skyPicture'
import { type LibraryPicture } from '@/document/library'
import { nameOfFile, sendWithProgress, tell } from '@/ui/store/addPictures'
import { changePicture, libraryOf, loadLibrary, putInLibrary, useLibrary } from '@/ui/store/library'
import { askLayers } from '@/ui/store/rendering'

interface SkyDock {
  /** How many of those that are being added have been looked at. */
  readonly adding: { readonly done: number; readonly of: number } | null
  /** The group that is shown; null: all. */
  readonly group: string | null
}
export const useSkyDock = create<SkyDock>(() => ({ adding: null, group: null }))
/** Undefined as long as they have not come. */
export const useSkies = (): readonly LibraryPicture[] | undefined => useLibrary((state) => state.pictures.sky)

export interface Ranked {
  readonly sky: LibraryPicture
  readonly fit: Fit | null
}
/** Those of a group (null: all), the best fit first; those nobody has read yet come last. */
export const rankedSkies = (
  skies: readonly LibraryPicture[],
  photo: Measures | undefined,
  group: string | null,
): readonly Ranked[] =>
  skies
    .filter((sky) => group === null || sky.group === group)
    .map((sky) => ({ sky, fit: photo && sky.reads && isRead(sky) ? fitOf(photo, sky.reads) : null }))
    .sort((a, b) => (b.fit?.score ?? -1) - (a.fit?.score ?? -1))
export const isRead = ({ reads }: LibraryPicture): boolean => reads?.version === SKY_PICTURE_VERSION

export async function loadSkies(): Promise<void> {
  if (await loadLibrary('sky')) await readTheRest()
}

let reading = false
/** One after the other, as long as a project is open. */
async function readTheRest(): Promise<void> {
  if (reading) return
  reading = true
  try {
    for (;;) {
      const sky = libraryOf('sky')?.find((each) => !isRead(each) && !unreadable.has(each.asset))
      if (!sky) return
      const reads = await askLayers((engine) => engine.readSky(sky.asset))
      if (!reads) return
      if (typeof reads === 'string') unreadable.set(sky.asset, reads)
      else if (!(await changePicture('sky', sky.asset, { reads }))) return
    }
  } catch {
    // The next time the skies are shown it is tried again.
  } finally {
    reading = false
  }
}
/** Pictures in the library that show no sky, and why. */
export const unreadable = new Map<string, string>()

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
    useSkyDock.setState({ adding: { done: i, of: files.length } })
    try {
      const { asset } = await sendWithProgress(file),
        known = libraryOf('sky')?.find((sky) => sky.asset === asset)
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
      await putInLibrary('sky', asset, { name, group, reads })
      await loadLibrary('sky')
      added.push(name)
    } catch (error) {
      tell(error)
    }
  }
  useSkyDock.setState({ adding: null })
  if (added.length)
    toast(`${added.length === 1 ? added[0] : `${added.length} of ${files.length}`} in the library of skies.`)
}
