/** Picture files that could not be sent yet, kept in this browser's IndexedDB until the server has them: a page that is closed or reloaded loses none. */
import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import { type LibraryKind } from '@/document/library'
import { holdTab, livingTabs } from './tabs'

/** Where a picture goes once it is stored. */
export type Goal =
  | { readonly kind: 'project' }
  /** @property below the layer it goes below; null: on top */
  | { readonly kind: 'layer'; readonly project: string; readonly below: string | null }
  | { readonly kind: 'library'; readonly part: LibraryKind; readonly group: string | null }
  | { readonly kind: 'batch'; readonly batch: string }

export interface KeptFile {
  readonly id: string
  readonly file: File
  readonly goal: Goal
}
interface Schema extends DBSchema {
  files: { key: string; value: KeptFile & { readonly tab: string; readonly at: number } }
}
/** What nobody came back for goes after so long, ms. */
const KEPT_MS = 14 * 24 * 60 * 60_000

let opened: Promise<IDBPDatabase<Schema>> | null = null
const database = (): Promise<IDBPDatabase<Schema>> =>
  (opened ??= openDB<Schema>('wily-scissor-files', 1, {
    upgrade: (db) => void db.createObjectStore('files', { keyPath: 'id' }),
  }))
let tab: string | null = null
let count = 0

/** In the order they are kept. Rejects where this browser keeps nothing. */
export async function keepFile(kept: KeptFile): Promise<void> {
  const at = Date.now() + count++ / 1000
  tab ??= holdTab()
  await (await database()).put('files', { ...kept, tab, at })
}
export async function forgetFile(id: string): Promise<void> {
  await (await database()).delete('files', id)
}
/** Takes over what tabs left that are gone. */
export async function leftFiles(isMine: (goal: Goal) => boolean): Promise<readonly KeptFile[]> {
  tab ??= holdTab()
  const living = await livingTabs(),
    transaction = (await database()).transaction('files', 'readwrite'),
    left: Schema['files']['value'][] = []
  for (let cursor = await transaction.store.openCursor(); cursor; cursor = await cursor.continue()) {
    const { value } = cursor
    if (Date.now() - value.at > KEPT_MS) await cursor.delete()
    else if (!living.has(value.tab) && isMine(value.goal)) {
      await cursor.update({ ...value, tab })
      left.push(value)
    }
  }
  await transaction.done
  return left.sort((a, b) => a.at - b.at)
}
