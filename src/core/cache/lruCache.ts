import { LRUCache } from 'lru-cache'

/** Results worth keeping between two runs; the least recently used go first. */
export interface Memory {
  readonly get: <T>(key: string) => T | undefined
  /** A value larger than all of the memory is not kept. */
  readonly set: (key: string, value: unknown, bytes: number) => void
  /** True when a value of so many bytes would be kept. */
  readonly holds: (bytes: number) => boolean
}

/** Keeps results up to a number of bytes; the least recently used go first. A result larger than all of it is not kept. */
export class LruCache implements Memory {
  private readonly entries: LRUCache<string, { readonly value: unknown }>

  constructor(private readonly limit: number) {
    this.entries = new LRUCache({ maxSize: Math.max(1, limit) })
  }

  get = <T>(key: string): T | undefined => this.entries.get(key)?.value as T | undefined

  set = (key: string, value: unknown, bytes: number): void => {
    if (this.holds(bytes)) this.entries.set(key, { value }, { size: Math.max(1, bytes) })
    else this.entries.delete(key)
  }

  holds = (bytes: number): boolean => bytes <= this.limit

  get bytes(): number {
    return this.entries.calculatedSize
  }
}
