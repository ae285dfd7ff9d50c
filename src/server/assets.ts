/** Pictures on the server: received as a stream, checked, stored once by content. */
import { createHash, randomUUID } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { mkdir, rename, rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { eq } from 'drizzle-orm'
import { type NamedPicture } from '@/document/tree'
import { pictureName } from './address'
import { database, type Database } from './database/connection'
import { asset } from './database/schema'
import { assetFile, convertedFile, folder } from './files'
import { checkPicture, LIMITS, PictureError, toPlainPng } from './pictures/read'
import { inTurn } from './pictures/turns'
import { notFound, Problem } from './problems'

export interface StoredPicture {
  readonly asset: string
  readonly width: number
  readonly height: number
  readonly mediaType: string
  readonly bytes: number
  readonly ppi: number | null
}

const tooLarge = (name: string, bytes: number): string =>
  `“${name}” is ${Math.round(bytes / 1024 / 1024)} MB; picture files up to ${LIMITS.bytes / 1024 / 1024} MB are read.`

/** A file longer than allowed is read on to this length, so that its sender gets the sentence and not a broken connection. */
const READ_ON = 2 * LIMITS.bytes

/** Streams the file to disk, so memory does not grow with it. Throws Problem. */
export async function storePicture(body: ReadableStream<Uint8Array> | null, name: string): Promise<StoredPicture> {
  if (!body) throw new Problem(422, `“${name}” is empty.`)
  const incoming = join(await folder('incoming'), randomUUID())
  const hash = createHash('sha256')
  let bytes = 0
  try {
    await pipeline(
      Readable.fromWeb(body as never),
      async function* (source: AsyncIterable<Buffer>) {
        for await (const chunk of source) {
          bytes += chunk.length
          if (bytes > READ_ON) throw new Problem(413, tooLarge(name, bytes))
          if (bytes > LIMITS.bytes) continue
          hash.update(chunk)
          yield chunk
        }
      },
      createWriteStream(incoming),
    )
    if (bytes === 0) throw new Problem(422, `“${name}” is empty.`)
    if (bytes > LIMITS.bytes) throw new Problem(413, tooLarge(name, bytes))
    return await keep(incoming, hash.digest('hex'), bytes, name)
  } finally {
    await rm(incoming, { force: true })
  }
}

/** Takes a picture file of this server's own in, and away from where it lies. Throws Problem. */
export async function storeFile(path: string, name: string): Promise<StoredPicture> {
  const hash = createHash('sha256')
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer)
  return keep(path, hash.digest('hex'), (await stat(path)).size, name)
}

/** One at a time for each picture, so that one that is being stored is not swept away. */
const keeping = new Map<string, Promise<unknown>>()
export async function alone<T>(sha256: string, work: () => Promise<T>): Promise<T> {
  const before = keeping.get(sha256)
  const mine = (before ?? Promise.resolve()).catch(() => {}).then(work)
  keeping.set(sha256, mine)
  try {
    return await mine
  } finally {
    if (keeping.get(sha256) === mine) keeping.delete(sha256)
  }
}

const keep = (incoming: string, sha256: string, bytes: number, name: string): Promise<StoredPicture> =>
  alone(sha256, async () => {
    const known = await find(sha256)
    if (known) {
      await database().update(asset).set({ created: new Date() }).where(eq(asset.sha256, sha256))
      return known
    }
    const file = assetFile(sha256)
    const beside = `${incoming}.png`
    try {
      const info = await inTurn(async () => {
        const found = await checkPicture(incoming, name)
        if (!found.plain) await toPlainPng(incoming, beside)
        return found
      })
      await mkdir(dirname(file), { recursive: true, mode: 0o700 })
      if (!info.plain) await rename(beside, convertedFile(sha256))
      await rename(incoming, file)
      const row = {
        sha256,
        mediaType: info.mediaType,
        width: info.width,
        height: info.height,
        bytes,
        ppi: info.ppi,
        converted: info.plain ? 0 : 1,
      }
      await database().insert(asset).values(row).onConflictDoNothing()
      return { asset: sha256, ...info, bytes }
    } catch (error) {
      throw error instanceof PictureError ? new Problem(422, error.message) : error
    } finally {
      await rm(beside, { force: true })
    }
  })

async function find(sha256: string, connection: Pick<Database, 'select'> = database()): Promise<StoredPicture | null> {
  const [row] = await connection.select().from(asset).where(eq(asset.sha256, sha256))
  if (!row || !(await stat(assetFile(sha256)).catch(() => null))) return null
  return {
    asset: sha256,
    width: row.width,
    height: row.height,
    mediaType: row.mediaType,
    bytes: row.bytes,
    ppi: row.ppi,
  }
}

/** The file to show: the original, or the plain PNG made of it. Throws Problem when there is none. */
export async function shownFile(sha256: string): Promise<{ path: string; mediaType: string; bytes: number }> {
  pictureName(sha256)
  const [row] = await database().select().from(asset).where(eq(asset.sha256, sha256))
  const path = row?.converted ? convertedFile(sha256) : assetFile(sha256)
  const file = await stat(path).catch(() => null)
  if (!row || !file) throw notFound('picture')
  return { path, mediaType: row.converted ? 'image/png' : row.mediaType, bytes: file.size }
}

/** Every size a picture is said to have must be the stored one. Throws Problem. @param connection a transaction's own, inside one */
export async function requirePictures(
  pictures: readonly NamedPicture[],
  connection?: Pick<Database, 'select'>,
): Promise<void> {
  for (const picture of pictures) {
    const stored = await find(picture.asset, connection)
    if (!stored) throw new Problem(422, `The picture ${picture.asset.slice(0, 8)}… is not stored here; add it again.`)
    if (picture.width === undefined || picture.height === undefined) continue
    if (stored.width !== picture.width || stored.height !== picture.height)
      throw new Problem(
        422,
        `The picture ${picture.asset.slice(0, 8)}… is ${stored.width} × ${stored.height} px, not ${picture.width} × ${picture.height}.`,
      )
  }
}
