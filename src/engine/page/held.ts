/**
 * What takes time to make, by key and counted: who needs a thing holds it, the last one to let go drops it. So an older request can
 * never take away what a newer one has just been given. What is being made while nobody holds it is joined by whoever asks again, and is
 * dropped on arrival where nobody does.
 */
interface Entry<V> {
  readonly ready: Promise<V>
  made: { readonly value: V } | undefined
  holders: number
}

export interface Hold<V> {
  readonly ready: Promise<V>
  /** What it came to; undefined while it is being made, and when it failed. */
  readonly made: { readonly value: V } | undefined
  release(): void
}

export class Held<V> {
  private readonly entries = new Map<string, Entry<V>>()
  private kept: ReadonlySet<string> = new Set()

  /** @param drop is told once of every value that nobody holds any more */
  constructor(private readonly drop: (value: V, key: string) => void = () => {}) {}

  /** Holds what has this key, and makes it first where it is not there. One that failed is made anew by the next who asks. @param make is given a way to ask whether anyone still waits */
  hold(key: string, make: (wanted: () => boolean) => Promise<V>): Hold<V> {
    const entry = this.entries.get(key) ?? this.begin(key, make)
    entry.holders++
    let holding = true
    return {
      ready: entry.ready,
      get made() {
        return entry.made
      },
      release: () => {
        if (!holding) return
        holding = false
        entry.holders--
        this.settle(key, entry)
      },
    }
  }

  /** What is there already, without holding it. */
  value(key: string): V | undefined {
    return this.entries.get(key)?.made?.value
  }

  /** These stay though nobody holds them, until the next call. Newest last: what is used again stays longest where a caller keeps the last few. */
  keep(keys: Iterable<string>): void {
    this.kept = new Set(keys)
    for (const [key, entry] of [...this.entries]) this.settle(key, entry)
  }

  get size(): number {
    return this.entries.size
  }

  private begin(key: string, make: (wanted: () => boolean) => Promise<V>): Entry<V> {
    const wanted = () => entry.holders > 0 || this.kept.has(key),
      entry: Entry<V> = { ready: Promise.resolve().then(() => make(wanted)), made: undefined, holders: 0 }
    this.entries.set(key, entry)
    entry.ready.then(
      (value) => {
        entry.made = { value }
        this.settle(key, entry)
      },
      () => this.entries.delete(key),
    )
    return entry
  }

  private settle(key: string, entry: Entry<V>): void {
    if (entry.holders > 0 || this.kept.has(key) || !entry.made || this.entries.get(key) !== entry) return
    this.entries.delete(key)
    this.drop(entry.made.value, key)
  }
}

/** Everything held for one request, let go of together. */
export class Holds {
  private readonly all: Hold<unknown>[] = []
  add<T>(hold: Hold<T>): Hold<T> {
    this.all.push(hold)
    return hold
  }
  release(): void {
    for (const hold of this.all.splice(0)) hold.release()
  }
  get complete(): boolean {
    return this.all.every((hold) => hold.made)
  }
}
