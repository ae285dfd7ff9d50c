/** Zip files from outside: looked through before anything is unpacked, so that none unpacks to more than it may, or leads outside. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { createWriteStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { type Entry, openPromise } from 'yauzl'
import { Problem } from './problems'
import { scratch } from './storage/scratch'

/** Files in one zip. */
const MOST_ENTRIES = 20_000
/** Of all that it says it unpacks to, bytes. */
const MOST_BYTES = 8 * 2 ** 30

export interface OpenZip {
  readonly names: readonly string[]
  has(name: string): boolean
  /** How long it is unpacked, as the file says; 0 where it is not there. */
  bytes(name: string): number
  /** @param most bytes it may unpack to. Throws Problem where it is not there, damaged, or longer */
  read(name: string, most: number): Promise<Buffer>
  stream(name: string): Promise<Readable>
  /** Unpacks one into a scratch file of this process. */
  extract(name: string, most: number): Promise<string>
  close(): void
}

/** @param what the file is, for people: "“tour.ora”". Throws Problem 422 with what is wrong */
export async function openZip(path: string, what: string): Promise<OpenZip> {
  const damaged = (error: unknown): Problem => {
    const said = sentenceOf(error)
    if (/relative path|absolute path|backslash|invalid characters in fileName/i.test(said))
      return new Problem(422, `${what} names files outside itself; nothing was read.`)
    return new Problem(422, `${what} is damaged: it is no whole zip file.`)
  }
  const zip = await openPromise(path, { lazyEntries: true, autoClose: false, strictFileNames: true }).catch(
    (error: unknown) => {
      throw damaged(error)
    },
  )
  const entries = new Map<string, Entry>()
  let bytes = 0
  try {
    for await (const entry of zip.eachEntry()) {
      bytes += entry.uncompressedSize
      if (entries.size >= MOST_ENTRIES || bytes > MOST_BYTES)
        throw new Problem(422, `${what} unpacks to more than is read here (${MOST_BYTES / 2 ** 30} GB).`)
      if (!entry.fileName.endsWith('/')) entries.set(entry.fileName, entry)
    }
  } catch (error) {
    zip.close()
    throw error instanceof Problem ? error : damaged(error)
  }
  const entryOf = (name: string): Entry => {
    const entry = entries.get(name)
    if (!entry) throw new Problem(422, `${what} lacks the file ${name}.`)
    return entry
  }
  const checked = (name: string, most: number): Entry => {
    const entry = entryOf(name)
    if (entry.uncompressedSize > most)
      throw new Problem(422, `${what}: ${name} is longer than is read here (${Math.round(most / 2 ** 20)} MB).`)
    return entry
  }
  const open = (entry: Entry): Promise<Readable> =>
    zip.openReadStreamPromise(entry).catch((error: unknown) => {
      throw damaged(error)
    })
  return {
    names: [...entries.keys()],
    has: (name) => entries.has(name),
    bytes: (name) => entries.get(name)?.uncompressedSize ?? 0,
    async read(name, most) {
      const chunks: Buffer[] = []
      try {
        for await (const chunk of await open(checked(name, most))) chunks.push(chunk as Buffer)
      } catch (error) {
        throw error instanceof Problem ? error : damaged(error)
      }
      return Buffer.concat(chunks)
    },
    stream: (name) => open(entryOf(name)),
    async extract(name, most) {
      const entry = checked(name, most),
        file = await scratch()
      try {
        await pipeline(await open(entry), createWriteStream(file))
      } catch (error) {
        await rm(file, { force: true })
        throw (error as NodeJS.ErrnoException).code === 'ENOSPC' || error instanceof Problem ? error : damaged(error)
      }
      return file
    },
    close: () => zip.close(),
  }
}
