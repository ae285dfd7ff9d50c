/**
 * Records on their way to a worker. They never change, so each goes once and is named by a number from then on: a tick costs what is new in
 * it, however many steps and strokes there are.
 */
export interface Refs {
  readonly refs: readonly number[]
  /** Those that have not been sent before. */
  readonly fresh: readonly (readonly [number, object])[]
  /** Everything sent before may be forgotten. */
  readonly anew?: true
}

/** So many records may be known to the other side before all are forgotten. */
const MOST = 20_000

/** The page's side. */
export class RefSender {
  private numbers = new WeakMap<object, number>()
  private count = 0
  private sent = 0

  send(records: readonly object[]): Refs {
    const anew = this.sent + records.length > MOST
    if (anew) {
      this.numbers = new WeakMap()
      this.sent = 0
    }
    const fresh: [number, object][] = []
    const refs = records.map((record) => {
      let number = this.numbers.get(record)
      if (number === undefined) {
        this.numbers.set(record, (number = this.count++))
        fresh.push([number, record])
      }
      return number
    })
    this.sent += fresh.length
    return { refs, fresh, ...(anew ? { anew } : {}) }
  }
}

/** The worker's side. */
export class RefReader {
  private readonly known = new Map<number, object>()

  /** Takes in what is new. To be called for every message, in their order. */
  read<T>({ refs, fresh, anew }: Refs): T[] {
    if (anew) this.known.clear()
    for (const [number, record] of fresh) this.known.set(number, record)
    return refs.map((number) => {
      const record = this.known.get(number)
      if (record === undefined) throw new Error('A record was named that was not sent.')
      return record as T
    })
  }
}
