/** What storage does, wherever it is. */
import { type Readable } from 'node:stream'

export interface StoredFile {
  readonly key: string
  readonly bytes: number
  readonly changed: Date
}
export interface Storage {
  /** Takes a file of this machine in and away. Readers of the key see nothing, or all of it; what is there already is replaced whole. */
  put(key: string, file: string): Promise<void>
  /** A file on this machine that holds the content, to be read only; undefined where there is none. */
  local(key: string): Promise<string | undefined>
  /** The content as it comes; undefined where there is none. */
  open(key: string): Promise<{ readonly stream: Readable; readonly bytes: number } | undefined>
  has(key: string): Promise<boolean>
  remove(...keys: readonly string[]): Promise<void>
  /** All files whose keys begin so, in no order. */
  list(prefix: string): AsyncIterable<StoredFile>
}
