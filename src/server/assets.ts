/** Pictures on the server: received as a stream, checked, stored once by content. */
import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { rm, stat } from 'node:fs/promises'
import { eq } from 'drizzle-orm'
import { type StoredPicture } from '@/document/exchanged'
import { fileTitle } from '@/document/fileTitle'
import { type NamedPicture } from '@/document/tree'
import { pictureName } from './address'
import { database, type Database } from './database/connection'
import { asset } from './database/schema'
import { checkPicture, LIMITS, PictureError, toPlainPng } from './pictures/read'
import { inTurn } from './pictures/turns'
import { notFound, Problem } from './problems'
import { receive } from './receive'
import { KEYS } from './storage/keys'
import { scratch } from './storage/scratch'
import { storage } from './storage/store'

const tooLarge = (name: string, bytes: number): string =>
  `“${name}” is ${Math.round(bytes / 1024 / 1024)} MB; picture files up to ${LIMITS.bytes / 1024 / 1024} MB are read.`

/** A file longer than allowed is read on to this length, so that its sender gets the sentence and not a broken connection. */
const READ_ON = 2 * LIMITS.bytes

/** Streams the file to disk, so memory does not grow with it. Throws Problem. */
export async function storePicture(body: ReadableStream<Uint8Array> | null, name: string): Promise<StoredPicture> {
  const incoming = await scratch()
  const hash = createHash('sha256')
  try {
    const bytes = await receive(body, incoming, {
      name,
      most: LIMITS.bytes,
      readOn: READ_ON,
      tooLarge: (sent) => tooLarge(name, sent),
      part: (chunk) => void hash.update(chunk),
    })
    return await keep(incoming, hash.digest('hex'), bytes, { name, sent: true })
  } finally {
    await rm(incoming, { force: true })
  }
}

/** Takes a picture file of this server's own in, and away from where it lies. Throws Problem. @param name for what is said of it */
export async function storeFile(path: string, name: string): Promise<StoredPicture> {
  const hash = createHash('sha256')
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer)
  return keep(path, hash.digest('hex'), (await stat(path)).size, { name, sent: false })
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

/** @param sent by somebody, under this name */
const keep = (
  incoming: string,
  sha256: string,
  bytes: number,
  { name, sent }: { name: string; sent: boolean },
): Promise<StoredPicture> =>
  alone(sha256, async () => {
    const called = sent ? { name: fileTitle(name) } : {}
    const known = await find(sha256)
    if (known) {
      await database()
        .update(asset)
        .set({ created: new Date(), ...called })
        .where(eq(asset.sha256, sha256))
      return known
    }
    const beside = `${incoming}.png`
    try {
      const info = await inTurn(async () => {
        const found = await checkPicture(incoming, name)
        if (!found.plain) await toPlainPng(incoming, beside)
        return found
      })
      if (!info.plain) await storage().put(KEYS.plain(sha256), beside)
      await storage().put(KEYS.picture(sha256), incoming)
      const row = {
        sha256,
        mediaType: info.mediaType,
        width: info.width,
        height: info.height,
        bytes,
        ppi: info.ppi,
        converted: info.plain ? 0 : 1,
        ...called,
      }
      await database().insert(asset).values(row).onConflictDoNothing()
      return { asset: sha256, width: info.width, height: info.height, ppi: info.ppi }
    } catch (error) {
      throw error instanceof PictureError ? new Problem(422, error.message) : error
    } finally {
      await rm(beside, { force: true })
    }
  })

async function find(sha256: string, connection: Pick<Database, 'select'> = database()): Promise<StoredPicture | null> {
  const [row] = await connection.select().from(asset).where(eq(asset.sha256, sha256))
  if (!row || !(await storage().has(KEYS.picture(sha256)))) return null
  return { asset: sha256, width: row.width, height: row.height, ppi: row.ppi }
}

/** What is shown of a picture: the original, or the plain PNG made of it. Throws Problem when there is none. */
export async function shownPicture(sha256: string): Promise<{ key: string; mediaType: string }> {
  pictureName(sha256)
  const [row] = await database().select().from(asset).where(eq(asset.sha256, sha256))
  if (!row) throw notFound('picture')
  return row.converted
    ? { key: KEYS.plain(sha256), mediaType: 'image/png' }
    : { key: KEYS.picture(sha256), mediaType: row.mediaType }
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
