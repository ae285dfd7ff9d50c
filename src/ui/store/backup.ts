/**
 * What the server has not confirmed yet, kept in this browser's IndexedDB, so that closing it loses nothing. Each tab keeps its own;
 * what a tab left that is gone is taken over by the next one. A browser that keeps nothing is told, never in the way.
 */
import { type DBSchema, type IDBPDatabase, openDB, type OpenDBCallbacks } from 'idb'
import { type Act } from '@/document/history'
import { holdTab, livingTabs } from './tabs'

interface Schema extends DBSchema {
  acts: { key: number; value: { project: string; tab?: string; act: Act }; indexes: { project: string } }
  /** By project and tab. */
  heads: {
    key: string
    value: KeptHead
    indexes: { project: string }
  }
  /** Changes that could not be saved. */
  aside: { key: string; value: SetAside; indexes: { project: string } }
}
interface KeptHead {
  readonly key: string
  readonly project: string
  readonly tab: string
  readonly head: string | null
  /** What the server showed when it was done; absent in earlier records. */
  readonly agreed?: string | null
}
export interface SetAside {
  readonly id: string
  readonly project: string
  readonly act: Act
  /** Why, in a sentence. */
  readonly why: string
}
/** What an earlier visit left. */
export interface Left {
  readonly acts: readonly Act[]
  /** Undefined where nothing was left unsent. */
  /** What each tab showed and the server did not yet. */
  readonly heads: readonly Pick<KeptHead, 'head' | 'agreed'>[]
  readonly aside: readonly SetAside[]
}
export const NOTHING_LEFT: Left = { acts: [], heads: [], aside: [] }

const headKey = (project: string, tab: string): string => `${project} ${tab}`
/** Records of before there were tabs of their own. */
const EARLIER = 'earlier'
const OPEN_MS = 4000

export class Backup {
  readonly tab = crypto.randomUUID()
  private readonly db: Promise<IDBPDatabase<Schema>>
  private opened: IDBPDatabase<Schema> | null = null
  private letGo: () => void = () => {}

  constructor(private readonly project: string) {
    const opened = openOrReject('wily-scissor', 2, {
      async upgrade(db, from, _to, transaction) {
        if (from < 1) db.createObjectStore('acts', { autoIncrement: true }).createIndex('project', 'project')
        // Heads were by project alone.
        const old =
          from === 1
            ? ((await transaction.objectStore('heads').getAll()) as unknown as {
                project: string
                head: string | null
              }[])
            : []
        if (from === 1) db.deleteObjectStore('heads')
        const heads = db.createObjectStore('heads', { keyPath: 'key' })
        heads.createIndex('project', 'project')
        for (const { project, head } of old)
          await heads.put({ key: headKey(project, EARLIER), project, tab: EARLIER, head })
        db.createObjectStore('aside', { keyPath: 'id' }).createIndex('project', 'project')
      },
      blocking: (_current, _blocked, event) => (event.target as unknown as IDBPDatabase).close(),
    })
    // A browser that neither opens it nor says no would keep the project from opening.
    this.db = Promise.race([
      opened,
      new Promise<never>((_, reject) =>
        setTimeout(() => reject(new Error('This browser’s storage does not answer.')), OPEN_MS),
      ),
    ])
    this.db.then(
      (db) => (this.opened = db),
      () => {},
    )
    holdTab(this.tab, new Promise((done) => (this.letGo = done)))
  }

  /** Takes over what tabs left that are gone. Rejects where this browser keeps nothing. */
  async left(): Promise<Left> {
    const db = await this.db,
      living = await livingTabs()
    const transaction = db.transaction(['acts', 'heads', 'aside'], 'readwrite'),
      acts: Act[] = []
    const heads: KeptHead[] = []
    for (
      let cursor = await transaction.objectStore('acts').index('project').openCursor(this.project);
      cursor;
      cursor = await cursor.continue()
    ) {
      const { act, tab = EARLIER } = cursor.value
      if (living.has(tab) && tab !== this.tab) continue
      acts.push(act)
      await cursor.update({ ...cursor.value, tab: this.tab })
    }
    for (const kept of await transaction.objectStore('heads').index('project').getAll(this.project)) {
      if (living.has(kept.tab) && kept.tab !== this.tab) continue
      heads.push(kept)
      await transaction.objectStore('heads').delete(kept.key)
    }
    const last = heads.at(-1)
    if (last)
      await transaction.objectStore('heads').put({ ...last, key: headKey(this.project, this.tab), tab: this.tab })
    const aside = await transaction.objectStore('aside').index('project').getAll(this.project)
    await transaction.done
    return { acts, heads, aside }
  }

  /** Everything is handed over before this returns, where the storage is open: a tab that is closed at once loses nothing. */
  async put(act: Act | null, head: string | null, agreed: string | null): Promise<void> {
    const transaction = (this.opened ?? (await this.db)).transaction(['acts', 'heads'], 'readwrite'),
      { project, tab } = this
    const writing = [
      act && transaction.objectStore('acts').add({ project, tab, act }),
      transaction.objectStore('heads').put({ key: headKey(project, tab), project, tab, head, agreed }),
    ]
    transaction.commit()
    await Promise.all([...writing, transaction.done])
  }
  /** These are on the server, or set aside. @param all nothing is left to send */
  async forget(acts: ReadonlySet<string>, all: boolean): Promise<void> {
    const transaction = (await this.db).transaction(['acts', 'heads'], 'readwrite')
    for (
      let cursor = await transaction.objectStore('acts').index('project').openCursor(this.project);
      cursor;
      cursor = await cursor.continue()
    )
      if (acts.has(cursor.value.act.id)) await cursor.delete()
    if (all) await transaction.objectStore('heads').delete(headKey(this.project, this.tab))
    await transaction.done
  }
  async setAside(entry: SetAside): Promise<void> {
    await (await this.db).put('aside', entry)
  }
  async discard(id: string): Promise<void> {
    await (await this.db).delete('aside', id)
  }
  close(): void {
    this.letGo()
    this.db.then((db) => db.close()).catch(() => {})
  }
}

/** Some browsers throw at once. */
const openOrReject = async (name: string, version: number, callbacks: OpenDBCallbacks<Schema>) =>
  openDB<Schema>(name, version, callbacks)
