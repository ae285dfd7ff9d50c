/** Which of the library's pictures are shown: kept while the library is closed and opened again. */
import { create } from 'zustand'
import { type LibraryKind, type LibraryPicture } from '@/document/library'
import { newestFirst } from '@/ui/primitives/when'

export const KIND_NAMES: readonly (readonly [LibraryKind, string])[] = [
  ['sky', 'Skies'],
  ['backdrop', 'Backdrops'],
  ['mask', 'Masks'],
  ['own', 'Own pictures'],
]

export type Order = 'added' | 'name' | 'size' | 'used'
export const ORDERS: Readonly<Record<Order, (a: LibraryPicture, b: LibraryPicture) => number>> = {
  added: (a, b) => newestFirst(a.added, b.added),
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  size: (a, b) => b.width * b.height - a.width * a.height,
  used: (a, b) => b.projects - a.projects,
}

interface Browsing {
  readonly kind: LibraryKind
  /** Null: all. */
  readonly group: string | null
  readonly sought: string
  readonly order: Order
  /** Their assets. */
  readonly chosen: ReadonlySet<string>
}
const NONE: ReadonlySet<string> = new Set()
export const useBrowsing = create<Browsing>(() => ({
  kind: 'backdrop',
  group: null,
  sought: '',
  order: 'added',
  chosen: NONE,
}))
export const browse = (change: Partial<Browsing>): void => useBrowsing.setState(change)
export const goToKind = (kind: LibraryKind): void => browse({ kind, group: null, chosen: NONE })
export const chooseNone = (): void => browse({ chosen: NONE })
export const toggle = (asset: string): void =>
  useBrowsing.setState(({ chosen }) => {
    const next = new Set(chosen)
    if (!next.delete(asset)) next.add(asset)
    return { chosen: next }
  })

/** Those of a group whose name or group holds every word that is sought. */
export function found(
  pictures: readonly LibraryPicture[],
  { group, sought, order }: Pick<Browsing, 'group' | 'sought' | 'order'>,
): readonly LibraryPicture[] {
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean)
  return pictures
    .filter((each) => {
      const text = `${each.name} ${each.group}`.toLowerCase()
      return (group === null || each.group === group) && words.every((word) => text.includes(word))
    })
    .sort(ORDERS[order])
}
