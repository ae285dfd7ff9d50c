/** Project files and OpenRaster files into this installation, as new projects. */
import { createHash, randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { createInterface } from 'node:readline'
import { type Act } from '@/document/history'
import { type Standing } from '@/document/exchanged'
import { BATCH_BYTES, BATCH_CHANGES, CHANGE_BYTES, keepable, PICTURE_BYTES } from '@/document/limits'
import { storeFile } from '../assets'
import { isOpenRaster, readOpenRaster } from '../openRaster/read'
import { jsonOf, notFound, Problem } from '../problems'
import { askRecord } from '../records/pool'
import { receive } from '../receive'
import { scratch } from '../storage/scratch'
import { removeProject } from '../tidy/sweep'
import { openZip, type OpenZip } from '../zipFile'
import { ACTS_ENTRY, PICTURES, PROJECT_ENTRY, PROJECT_FILE, PROJECT_FILE_VERSION } from './layout'

/** Of a whole file, bytes. */
const FILE_BYTES = 4 * 2 ** 30

/** On globalThis: Next.js may load this module more than once in a process. */
const store = globalThis as typeof globalThis & { wilyImports?: Map<string, number> }
/** How far those are that are being taken in, 0-1, by the name their sender gave them. */
const underWay = (store.wilyImports ??= new Map<string, number>())
/** Throws Problem 404 where nothing of that name is being taken in. */
export function importProgress(id: string): { progress: number } {
  const progress = underWay.get(id)
  if (progress === undefined) throw notFound('import')
  return { progress }
}
/** Is told how far it is; throws where nobody waits for it any more. */
type Check = (progress: number) => void

/** The body is the file. Throws Problem. @param id under which its progress can be asked @returns the new project's id */
export async function importProject(
  body: ReadableStream<Uint8Array> | null,
  name: string,
  { id, signal }: { id?: string; signal?: AbortSignal } = {},
): Promise<{ id: string }> {
  const file = await scratch()
  const check: Check = (progress) => {
    signal?.throwIfAborted()
    if (id !== undefined) underWay.set(id, progress)
  }
  try {
    const tooLarge = () => `“${name}” is larger than ${FILE_BYTES / 2 ** 30} GB.`
    await receive(body, file, { name, most: FILE_BYTES, tooLarge })
    const what = `“${name}”`,
      zip = await openZip(file, what)
    try {
      if (zip.has(PROJECT_ENTRY)) return { id: await takeIn(zip, what, check) }
      if (await isOpenRaster(zip)) {
        const records = await readOpenRaster(zip, what, keepable(name.replace(/\.[^.]+$/, '')) || 'Project', check)
        return await create(records)
      }
    } finally {
      zip.close()
    }
    throw new Problem(422, `${what} is neither a project file nor an OpenRaster file.`)
  } finally {
    if (id !== undefined) underWay.delete(id)
    await rm(file, { force: true })
  }
}

async function create(records: unknown): Promise<{ id: string }> {
  const id = randomUUID()
  await askRecord({ ask: 'create', id: '', body: bytesOf({ id, records }) })
  return { id }
}
const bytesOf = (json: unknown): Uint8Array => new Uint8Array(Buffer.from(JSON.stringify(json)))

async function takeIn(zip: OpenZip, what: string, check: Check): Promise<string> {
  const about = jsonOf(new Uint8Array(await zip.read(PROJECT_ENTRY, CHANGE_BYTES + BATCH_BYTES))) as Record<
    string,
    unknown
  > | null
  if (about?.format !== PROJECT_FILE) throw new Problem(422, `${what} is no project file.`)
  if (about.version !== PROJECT_FILE_VERSION)
    throw new Problem(
      422,
      `${what} was made by a newer version (${JSON.stringify(about.version)}); this one reads ${PROJECT_FILE_VERSION}.`,
    )
  const ofPictures = await takePictures(zip, what, check)
  const { id } = await create(about.initial)
  try {
    await takeActs(zip, what, id, about.head, (share) => check(ofPictures + (1 - ofPictures) * share))
  } catch (error) {
    await removeProject(id)
    throw error
  }
  return id
}

/** Each must be what its name says. @returns how much of the whole they are, 0-1 */
async function takePictures(zip: OpenZip, what: string, check: Check): Promise<number> {
  const names = zip.names.filter((each) => each.startsWith(PICTURES)),
    bytesOf = (some: readonly string[]) => some.reduce((sum, name) => sum + zip.bytes(name), 0),
    all = bytesOf(zip.names) || 1
  for (const [i, name] of names.entries()) {
    check(bytesOf(names.slice(0, i)) / all)
    const sha256 = name.slice(PICTURES.length)
    if (!/^[0-9a-f]{64}$/.test(sha256)) continue
    const file = await zip.extract(name, PICTURE_BYTES)
    try {
      const hash = createHash('sha256')
      for await (const chunk of createReadStream(file)) hash.update(chunk as Buffer)
      if (hash.digest('hex') !== sha256)
        throw new Problem(422, `${what}: a picture in it (${sha256.slice(0, 8)}…) is damaged.`)
      await storeFile(file, `${sha256.slice(0, 8)}…`)
    } finally {
      await rm(file, { force: true })
    }
  }
  return bytesOf(names) / all
}

/** Acts get ids of their own, so that a project may be taken in beside the one it came from. */
async function takeActs(zip: OpenZip, what: string, id: string, head: unknown, check: Check): Promise<void> {
  if (!zip.has(ACTS_ENTRY)) {
    if (head !== null) throw new Problem(422, `${what} lacks its changes.`)
    return
  }
  const ids = new Map<string, string>(),
    known = (old: unknown): string | null => {
      if (old === null || old === undefined) return null
      const found = typeof old === 'string' ? ids.get(old) : undefined
      if (!found) throw new Problem(422, `${what}: a change in it builds on one that is missing.`)
      return found
    }
  let revision = 0,
    some: Act[] = [],
    bytes = 0,
    taken = 0
  const all = zip.bytes(ACTS_ENTRY) || 1
  const store = async (shown: string | null) => {
    const sent = { acts: some, head: shown, revision, sending: randomUUID() }
    ;({ revision } = await askRecord<Standing>({ ask: 'store', id, body: bytesOf(sent) }))
    some = []
    bytes = 0
  }
  const lines = createInterface({ input: await zip.stream(ACTS_ENTRY), crlfDelay: Infinity })
  for await (const line of lines) {
    if (!line) continue
    if (line.length > CHANGE_BYTES) throw new Problem(422, `${what}: a change in it is longer than is read here.`)
    const act = jsonOf(new Uint8Array(Buffer.from(line))) as Act
    if (some.length >= BATCH_CHANGES || bytes + line.length > BATCH_BYTES) await store(some.at(-1)?.id ?? null)
    const own = { ...act, id: randomUUID(), parent: known(act.parent) }
    ids.set(act.id, own.id)
    some.push(own)
    bytes += line.length
    taken += line.length
    check(Math.min(1, taken / all))
  }
  if (some.length || head !== null) await store(known(head))
}
