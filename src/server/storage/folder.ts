/** Files in a folder of this machine (or one that several machines share). */
import { randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { copyFile, mkdir, readdir, rename, rm, rmdir, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { type Storage, type StoredFile } from './storage'

export class FolderStorage implements Storage {
  constructor(private readonly folder: string) {}

  private readonly path = (key: string): string => join(/* turbopackIgnore: true */ this.folder, key)
  private readonly seen = (key: string) => stat(this.path(key)).catch(() => null)

  async put(key: string, file: string): Promise<void> {
    const path = this.path(key)
    await mkdir(dirname(path), { recursive: true, mode: 0o700 })
    try {
      await rename(file, path)
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error
      const beside = `${path}.${randomUUID()}.part` // from another disk: copied beside its place first
      try {
        await copyFile(file, beside)
        await rename(beside, path)
      } finally {
        await rm(beside, { force: true })
      }
      await rm(file, { force: true })
    }
  }
  async local(key: string): Promise<string | undefined> {
    return (await this.has(key)) ? this.path(key) : undefined
  }
  async open(key: string) {
    const found = await this.seen(key)
    return found?.isFile() ? { stream: createReadStream(this.path(key)), bytes: found.size } : undefined
  }
  async has(key: string): Promise<boolean> {
    return Boolean((await this.seen(key))?.isFile())
  }
  async remove(...keys: readonly string[]): Promise<void> {
    for (const key of keys) {
      await rm(this.path(key), { force: true })
      await rmdir(dirname(this.path(key))).catch(() => {}) // not empty, as a rule
    }
  }
  async *list(prefix: string): AsyncIterable<StoredFile> {
    const [, inside] = /^(?:(.*)\/)?[^/]*$/.exec(prefix) ?? []
    for (const entry of await readdir(this.path(inside ?? ''), { withFileTypes: true }).catch(() => [])) {
      const key = inside ? `${inside}/${entry.name}` : entry.name
      if (!key.startsWith(prefix) && !`${key}/`.startsWith(prefix)) continue
      if (entry.isDirectory()) yield* this.list(`${key}/`)
      else {
        const found = await this.seen(key)
        if (found?.isFile()) yield { key, bytes: found.size, changed: found.mtime }
      }
    }
  }
}
