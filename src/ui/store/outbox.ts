/**
 * Sends what was done to the server, in the order it was done, in batches of bounded bytes; each may arrive twice, the server knows them by id.
 * What is unsent lies here and, as long as this browser keeps anything, in its backup. A change that the server refuses is set aside; the rest goes on.
 */
import { type Standing } from '@/document/exchanged'
import { type Act } from '@/document/history'
import { BATCH_BYTES, BATCH_CHANGES } from '@/document/limits'
import { Backup, type Left, NOTHING_LEFT, type SetAside } from './backup'
import { Refused, sendActs, Unreachable } from './server'

const RETRY_MS = [500, 1000, 2000, 4000, 8000]

export interface OutboxState {
  readonly unsent: number
  readonly state: 'saved' | 'sending' | 'waiting' | 'gone'
  readonly problem?: string
  /** False where this browser keeps nothing: what is unsent is lost when the tab is closed. */
  readonly kept: boolean
}
export interface OutboxEvents {
  report(state: OutboxState): void
  /** Somebody else has moved the project on: what they did has to be taken in before ours can be shown to others. */
  overtaken(): Promise<void>
  /** The server refused this one for good. What was made after it is given back without it. */
  refused(
    act: Act,
    sentence: string,
    rest: readonly Act[],
  ): { readonly acts: readonly Act[]; readonly head: string | null }
  /** The server does not know what is shown: it is opened anew. */
  lost(): void
  /** The head is on the server now. */
  sent(standing: Standing): void
}

export class Outbox {
  private readonly backup: Backup
  private queue: { readonly act: Act; readonly bytes: number }[] = []
  /** What is shown; undefined while the server shows the same. */
  private head: string | null | undefined
  /** Names the sending of this head: sent again under the same name as long as nothing changes. */
  private sending = crypto.randomUUID()
  private agreed: string | null = null
  private working = false
  private again = false
  private tries = 0
  private timer: ReturnType<typeof setTimeout> | undefined
  private closed = false
  private kept = true
  private over: 'gone' | null = null
  /** The revision that the server is known to stand at. */
  revision = 0

  constructor(
    private readonly project: string,
    private readonly events: OutboxEvents,
  ) {
    this.backup = new Backup(project)
  }

  /** What an earlier visit left unsent, in this browser. */
  async left(): Promise<Left> {
    try {
      return await this.backup.left()
    } catch {
      this.kept = false
      return NOTHING_LEFT
    }
  }
  /** What was left goes on from here. */
  take(acts: readonly Act[], head: string | null | undefined): void {
    this.queue = acts.map(sized)
    this.head = head
  }

  /** The server shows what is shown here: nothing is left to send. */
  settled(head: string | null): void {
    if (this.queue.length) return
    this.head = undefined
    this.backup.forget(new Set(), true).catch(() => this.keepsNothing())
    this.agreed = head
    if (!this.working) this.report('saved')
  }

  /** Keeps an act (if any) and what is shown now, then sends. @param agreed what the server showed when it was done */
  put(act: Act | null, head: string | null, agreed: string | null): void {
    this.agreed = agreed
    if (act) this.queue.push(sized(act))
    this.head = head
    this.sending = crypto.randomUUID()
    this.backup.put(act, head, agreed).catch(() => this.keepsNothing())
    void this.flush()
  }
  private keepsNothing(): void {
    if (!this.kept) return
    this.kept = false
    if (this.head !== undefined) this.report('sending')
  }
  get unsent(): boolean {
    return this.head !== undefined
  }
  private report(state: OutboxState['state'], problem?: string): void {
    this.events.report({ unsent: this.unsent ? Math.max(1, this.queue.length) : 0, state, problem, kept: this.kept })
  }

  /** Sends everything unsent; comes back by itself while the server is away. */
  async flush(): Promise<void> {
    if (this.closed || this.over) return
    if (this.working) {
      this.again = true
      return
    }
    this.working = true
    clearTimeout(this.timer)
    try {
      do {
        this.again = false
        await this.sendAll()
      } while (this.again && !this.over)
      this.tries = 0
    } catch (error) {
      if (this.closed) return
      this.report('waiting', error instanceof Unreachable ? error.message : String(error))
      this.timer = setTimeout(() => void this.flush(), RETRY_MS[Math.min(this.tries++, RETRY_MS.length - 1)])
    } finally {
      this.working = false
    }
  }

  private async sendAll(): Promise<void> {
    for (let most = BATCH_CHANGES; this.head !== undefined && !this.closed;) {
      if (this.tries === 0) this.report('sending') // while the server is away, trying again is no news
      const { head, sending } = this,
        batch = this.nextBatch(most),
        all = batch.length === this.queue.length
      try {
        // The head may name an act that comes in a later batch: until then the last one sent stands for it.
        const standing = await sendActs(this.project, {
          acts: batch.map(({ act }) => act),
          head: all ? head : batch.at(-1)!.act.id,
          revision: this.revision,
          sending: all ? sending : crypto.randomUUID(),
        })
        most = BATCH_CHANGES
        this.queue.splice(0, batch.length)
        const done = all && standing.moved && this.sending === sending
        if (done) this.head = undefined
        this.remember(batch, done)
        if (standing.moved) {
          this.revision = standing.revision
          this.events.sent(standing)
        } else await this.events.overtaken()
      } catch (error) {
        if (!(error instanceof Refused)) throw error
        if (error.status === 404) {
          this.over = 'gone'
          this.report('gone', 'This project was deleted elsewhere.')
          return
        }
        if (batch.length > 1)
          most = 1 // which of them it is
        else if (batch.length === 1) this.setAside(batch[0].act, error.message)
        else {
          // A head alone that is refused names what the server does not have, and there is nothing left to send for it.
          this.head = undefined
          this.remember([], true)
          this.events.lost()
          return
        }
      }
    }
    if (!this.closed && this.head === undefined) this.report('saved')
  }

  private nextBatch(most: number): typeof this.queue {
    let bytes = 0
    const end = this.queue.findIndex(
      (entry, i) => i >= most || (i > 0 && bytes + entry.bytes > BATCH_BYTES) || ((bytes += entry.bytes), false),
    )
    return this.queue.slice(0, end < 0 ? undefined : end)
  }

  private remember(batch: typeof this.queue, all: boolean): void {
    this.backup.forget(new Set(batch.map(({ act }) => act.id)), all).catch(() => this.keepsNothing())
  }

  private setAside(act: Act, why: string): void {
    const entry: SetAside = { id: act.id, project: this.project, act, why }
    const before = this.queue.map((each) => each.act)
    let rest: ReturnType<OutboxEvents['refused']>
    try {
      rest = this.events.refused(act, why, before.slice(1))
    } catch {
      // The others cannot be told without it: all are set aside, and the project is opened as the server has it.
      this.queue = []
      this.head = undefined
      this.keepAside(before.map((each) => ({ ...entry, id: each.id, act: each })))
      this.remember([], true)
      this.events.lost()
      return
    }
    this.queue = rest.acts.map(sized)
    this.head = rest.head
    this.sending = crypto.randomUUID()
    const gone = new Set(before.map((each) => each.id))
    this.backup
      .setAside(entry)
      .then(() => this.backup.forget(gone, false))
      .then(async () => {
        for (const next of rest.acts) await this.backup.put(next, rest.head, this.agreed)
        await this.backup.put(null, rest.head, this.agreed)
      })
      .catch(() => this.keepsNothing())
  }
  /** Keeps what could not be joined, to be looked at and downloaded. */
  keepAside(entries: readonly SetAside[]): void {
    const ids = new Set(entries.map((entry) => entry.act.id))
    Promise.all(entries.map((entry) => this.backup.setAside(entry)))
      .then(() => this.backup.forget(ids, false))
      .catch(() => this.keepsNothing())
  }
  discard(id: string): void {
    this.backup.discard(id).catch(() => {})
  }

  close(): void {
    this.closed = true
    clearTimeout(this.timer)
    this.backup.close()
  }
}

const sized = (act: Act) => ({ act, bytes: JSON.stringify(act).length })
