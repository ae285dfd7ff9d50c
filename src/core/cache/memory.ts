/** Results worth keeping between two runs; the least recently used go first. */
export interface Memory {
  readonly get: <T>(key: string) => T | undefined
  /** A value larger than all of the memory is not kept. */
  readonly set: (key: string, value: unknown, bytes: number) => void
  /** True when a value of so many bytes would be kept. */
  readonly holds: (bytes: number) => boolean
}

/** Keeps results up to a number of bytes; the least recently used go first. A result larger than all of it is not kept. */
export class BoundedMemory implements Memory {
  private readonly entries = new Map<string, { value: unknown; bytes: number }>()
  private used = 0

  constructor(private readonly limit: number) {}

  get<T>(key: string): T | undefined {
    const entry = this.entries.get(key)
    if (!entry) return undefined
    this.entries.delete(key)
    this.entries.set(key, entry) // a Map keeps the order of insertion: last is newest
    return entry.value as T
  }

  set(key: string, value: unknown, bytes: number): void {
    const old = this.entries.get(key)
    if (old) {
      this.used -= old.bytes
      this.entries.delete(key)
    }
    if (!this.holds(bytes)) return
    this.entries.set(key, { value, bytes })
    this.used += bytes
    for (const [oldest, entry] of this.entries) {
      if (this.used <= this.limit) break
      this.entries.delete(oldest)
      this.used -= entry.bytes
    }
  }

  holds(bytes: number): boolean {
    return bytes <= this.limit
  }

  get bytes(): number {
    return this.used
  }
}
