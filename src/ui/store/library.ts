/** The library as it is on the server: listed, filled, changed. What is changed is shown at once; what the server refuses is taken back, and said. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { toast } from 'sonner'
import { create } from 'zustand'
import { type SkyPicture } from '@/core/match/skyPicture'
import { type LibraryKind, type LibraryPicture, type PictureUses } from '@/document/library'
import { say } from './say'
import { call, json } from './server'
import { soon } from './soon'

/** What may change of a picture. */
export type LibraryChange = Partial<Pick<LibraryPicture, 'name' | 'group'> & { reads: SkyPicture }>

interface Library {
  /** Those that have come. */
  readonly pictures: Readonly<Partial<Record<LibraryKind, readonly LibraryPicture[]>>>
  readonly problem: string
}
export const useLibrary = create<Library>(() => ({ pictures: {}, problem: '' }))
export const libraryOf = (kind: LibraryKind): readonly LibraryPicture[] | undefined =>
  useLibrary.getState().pictures[kind]
const show = (kind: LibraryKind, change: (pictures: readonly LibraryPicture[]) => readonly LibraryPicture[]): void =>
  useLibrary.setState(({ pictures }) => ({ pictures: { ...pictures, [kind]: change(pictures[kind] ?? []) } }))

/** @returns false where it did not come; then `problem` says why */
export async function loadLibrary(kind: LibraryKind): Promise<boolean> {
  try {
    const { pictures } = await call<{ pictures: LibraryPicture[] }>(`/api/library?kind=${kind}`)
    show(kind, () => pictures)
    useLibrary.setState({ problem: '' })
    return true
  } catch (error) {
    useLibrary.setState({ problem: sentenceOf(error) })
    return false
  }
}
/** Once for many that come one after the other. */
export const loadLibrarySoon = (kind: LibraryKind): void => soon(`library ${kind}`, () => void loadLibrary(kind))

/** One that is there already keeps what is not said anew. */
export const putInLibrary = (kind: LibraryKind, asset: string, change: LibraryChange): Promise<unknown> =>
  call('/api/library', json('POST', { kind, asset, ...change }))

async function changed(
  kind: LibraryKind,
  now: (pictures: readonly LibraryPicture[]) => readonly LibraryPicture[],
  send: () => Promise<unknown>,
): Promise<boolean> {
  const before = libraryOf(kind) ?? []
  show(kind, now)
  try {
    await send()
    return true
  } catch (error) {
    show(kind, () => before)
    say(error)
    return false
  }
}
/** One that was only listed because a project shows it is put in. */
export const changePicture = (kind: LibraryKind, asset: string, change: LibraryChange): Promise<boolean> => {
  const one = libraryOf(kind)?.find((each) => each.asset === asset)
  return changed(
    kind,
    (pictures) => pictures.map((each) => (each.asset === asset ? { ...each, ...change, kept: true } : each)),
    () =>
      one && !one.kept
        ? putInLibrary(kind, asset, { name: one.name, ...change })
        : call(`/api/library/${kind}/${asset}`, json('PATCH', change)),
  )
}
/** @param name empty: its pictures are in no group */
export const renameLibraryGroup = (kind: LibraryKind, group: string, name: string): Promise<boolean> =>
  changed(
    kind,
    (pictures) => pictures.map((each) => (each.group === group ? { ...each, group: name } : each)),
    () => call('/api/library', json('PATCH', { kind, group, name })),
  )

/** Out of the library, and back again for as long as the note about it stands. */
export async function takeOutOfLibrary(kind: LibraryKind, some: readonly LibraryPicture[]): Promise<void> {
  const gone = new Set(some.map(({ asset }) => asset))
  const out = await changed(
    kind,
    (pictures) => pictures.filter(({ asset }) => !gone.has(asset)),
    async () => {
      for (const asset of gone) await call(`/api/library/${kind}/${asset}`, { method: 'DELETE' })
    },
  )
  if (!out) return void loadLibrary(kind)
  if (kind === 'own') void loadLibrary(kind) // what a project shows is still listed
  toast(
    some.length === 1
      ? `${some[0].name} is out of the library; projects that show it keep it.`
      : `${some.length} pictures are out of the library; projects that show them keep them.`,
    { action: { label: 'Undo', onClick: () => void putBack(kind, some) } },
  )
}
async function putBack(kind: LibraryKind, some: readonly LibraryPicture[]): Promise<void> {
  try {
    for (const { asset, name, group, reads } of some)
      await putInLibrary(kind, asset, { name, group, ...(reads ? { reads } : {}) })
  } catch (error) {
    say(error)
  }
  void loadLibrary(kind)
}
/** To another part of the library, under the same name. */
export async function moveInLibrary(
  from: LibraryKind,
  to: LibraryKind,
  some: readonly LibraryPicture[],
): Promise<void> {
  try {
    for (const { asset, name, kept } of some) {
      await putInLibrary(to, asset, { name })
      if (kept) await call(`/api/library/${from}/${asset}`, { method: 'DELETE' })
    }
  } catch (error) {
    say(error)
  }
  await loadLibrary(from)
}

/** Names of groups, in the order of the alphabet. */
export const groupsOf = (pictures: readonly LibraryPicture[]): readonly string[] =>
  [...new Set(pictures.map(({ group }) => group))].filter(Boolean).sort((a, b) => a.localeCompare(b))

export const usesOfPicture = (asset: string): Promise<PictureUses> => call(`/api/pictures/${asset}/uses`)
