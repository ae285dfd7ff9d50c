/**
 * What the server has not confirmed yet, kept in IndexedDB so that closing the browser loses nothing. Acts are sent in the order
 * they were made; each may be sent twice, the server knows them by id.
 */
import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import { type Act } from '@/document/history'
import { Refused, sendActs, Unreachable } from './server'

interface Schema extends DBSchema {
  acts: { key: number; value: { project: string; act: Act }; indexes: { project: string } }
  heads: { key: string; value: { project: string; head: string | null } }
}

const RETRY_MS = [500, 1000, 2000, 4000]
const ACTS_AT_ONCE = 100

export interface OutboxState {
  readonly unsent: number
  readonly state: 'saved' | 'sending' | 'waiting' | 'refused'
  readonly problem?: string
}

export class Outbox {
  private readonly db: Promise<IDBPDatabase<Schema>> = openDB<Schema>('wily-scissor', 1, {
    upgrade(db) {
      db.createObjectStore('acts', { autoIncrement: true }).createIndex('project', 'project')
      db.createObjectStore('heads', { keyPath: 'project' })
    },
  })
  private sending = false
  private again = false
  private tries = 0
  private timer: ReturnType<typeof setTimeout> | undefined
  private closed = false

  constructor(
    private readonly project: string,
    private readonly report: (state: OutboxState) => void,
  ) {}

  /** What an earlier visit left unsent. */
  async left(): Promise<{ acts: Act[]; head: string | null | undefined }> {
    const db = await this.db
    const acts = (await db.getAllFromIndex('acts', 'project', this.project)).map(({ act }) => act)
    return { acts, head: (await db.get('heads', this.project))?.head }
  }

  /** Keeps an act (if any) and the new head, then sends. Resolves once they are safe in the browser. */
  async put(act: Act | null, head: string | null): Promise<void> {
    const transaction = (await this.db).transaction(['acts', 'heads'], 'readwrite')
    if (act) await transaction.objectStore('acts').add({ project: this.project, act })
    await transaction.objectStore('heads').put({ project: this.project, head })
    await transaction.done
    void this.flush()
  }

  /** Sends everything unsent; comes back by itself while the server is away. */
  async flush(): Promise<void> {
    if (this.closed) return
    if (this.sending) {
      this.again = true
      return
    }
    this.sending = true
    clearTimeout(this.timer)
    try {
      do {
        this.again = false
        await this.sendAll()
      } while (this.again)
      this.tries = 0
    } catch (error) {
      const unsent = await this.count()
      if (error instanceof Refused) this.report({ unsent, state: 'refused', problem: error.message })
      else {
        this.report({ unsent, state: 'waiting', problem: error instanceof Unreachable ? error.message : String(error) })
        this.timer = setTimeout(
          () => {
            void this.flush()
          },
          RETRY_MS[Math.min(this.tries++, RETRY_MS.length - 1)],
        )
      }
    } finally {
      this.sending = false
    }
  }

  private async count(): Promise<number> {
    const db = await this.db
    const acts = await db.countFromIndex('acts', 'project', this.project)
    return acts || ((await db.get('heads', this.project)) ? 1 : 0)
  }

  private async sendAll(): Promise<void> {
    const db = await this.db
    for (;;) {
      // Read together: a head must not name an act that was put after the others were read.
      const reading = db.transaction(['acts', 'heads'])
      const [keys, values, head] = await Promise.all([
        reading.objectStore('acts').index('project').getAllKeys(this.project, ACTS_AT_ONCE),
        reading.objectStore('acts').index('project').getAll(this.project, ACTS_AT_ONCE),
        reading.objectStore('heads').get(this.project),
      ])
      if (!head) {
        this.report({ unsent: 0, state: 'saved' })
        return
      }
      const acts = values.map(({ act }) => act)
      if (this.tries === 0) this.report({ unsent: Math.max(1, acts.length), state: 'sending' }) // while the server is away, trying again is no news
      // The head may name an act that comes in a later batch: until then the last one sent stands for it.
      const more = keys.length === ACTS_AT_ONCE
      await sendActs(this.project, acts, more ? acts[acts.length - 1].id : head.head)
      const transaction = db.transaction(['acts', 'heads'], 'readwrite')
      for (const key of keys) await transaction.objectStore('acts').delete(key)
      const now = await transaction.objectStore('heads').get(this.project)
      if (!more && now?.head === head.head) await transaction.objectStore('heads').delete(this.project)
      await transaction.done
    }
  }

  close(): void {
    this.closed = true
    clearTimeout(this.timer)
  }
}
