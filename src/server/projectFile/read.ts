/** Project files and OpenRaster files into this installation, as new projects. */
import { createHash, randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { createInterface } from 'node:readline'
import { type Act } from '@/document/history'
import { BATCH_BYTES, BATCH_CHANGES, CHANGE_BYTES, keepable, PICTURE_BYTES } from '@/document/limits'
import { storeFile } from '../assets'
import { isOpenRaster, readOpenRaster } from '../openRaster/read'
import { jsonOf, Problem } from '../problems'
import { type Standing } from '../projects'
import { askRecord } from '../records/pool'
import { receive } from '../receive'
import { scratch } from '../storage/scratch'
import { removeProject } from '../tidy/sweep'
import { openZip, type OpenZip } from '../zipFile'
import { ACTS_ENTRY, PICTURES, PROJECT_ENTRY, PROJECT_FILE, PROJECT_FILE_VERSION } from './layout'

/** Of a whole file, bytes. */
const FILE_BYTES = 4 * 2 ** 30

/** The body is the file. Throws Problem. @returns the new project's id */
export async function importProject(body: ReadableStream<Uint8Array> | null, name: string): Promise<{ id: string }> {
  const file = await scratch()
  try {
    const tooLarge = () => `“${name}” is larger than ${FILE_BYTES / 2 ** 30} GB.`
    await receive(body, file, { name, most: FILE_BYTES, tooLarge })
    const what = `“${name}”`,
      zip = await openZip(file, what)
    try {
      if (zip.has(PROJECT_ENTRY)) return { id: await takeIn(zip, what) }
      if (await isOpenRaster(zip)) {
        const records = await readOpenRaster(zip, what, keepable(name.replace(/\.[^.]+$/, '')) || 'Project')
        return await create(records)
      }
    } finally {
      zip.close()
    }
    throw new Problem(422, `${what} is neither a project file nor an OpenRaster file.`)
  } finally {
    await rm(file, { force: true })
  }
}

async function create(records: unknown): Promise<{ id: string }> {
  const id = randomUUID()
  await askRecord({ ask: 'create', id: '', body: bytesOf({ id, records }) })
  return { id }
}
const bytesOf = (json: unknown): Uint8Array => new Uint8Array(Buffer.from(JSON.stringify(json)))

async function takeIn(zip: OpenZip, what: string): Promise<string> {
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
  await takePictures(zip, what)
  const { id } = await create(about.initial)
  try {
    await takeActs(zip, what, id, about.head)
  } catch (error) {
    await removeProject(id)
    throw error
  }
  return id
}

/** Each must be what its name says. */
async function takePictures(zip: OpenZip, what: string): Promise<void> {
  for (const name of zip.names.filter((each) => each.startsWith(PICTURES))) {
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
}

/** Acts get ids of their own, so that a project may be taken in beside the one it came from. */
async function takeActs(zip: OpenZip, what: string, id: string, head: unknown): Promise<void> {
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
    bytes = 0
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
  }
  if (some.length || head !== null) await store(known(head))
}
