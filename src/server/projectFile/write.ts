import { createWriteStream } from 'node:fs'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { eq } from 'drizzle-orm'
import { ZipFile } from 'yazl'
import { database } from '../database/connection'
import { projectAsset } from '../database/schema'
import { newActs, openProject } from '../projects'
import { KEYS } from '../storage/keys'
import { storage } from '../storage/store'
import { ACTS_ENTRY, PICTURES, PROJECT_ENTRY, PROJECT_FILE, PROJECT_FILE_VERSION, type ProjectHead } from './layout'

/** Acts read at a time: memory does not grow with the history. */
const ACTS_AT_ONCE = 500

/** @param head the act that is shown */
export async function writeProjectFile(
  id: string,
  head: string | null,
  file: string,
  progress: (fraction: number) => void,
): Promise<void> {
  const { initial, seq } = await openProject(id, 0),
    assets = await database()
      .select({ asset: projectAsset.asset })
      .from(projectAsset)
      .where(eq(projectAsset.project, id))
  const zip = new ZipFile(),
    written = pipeline(zip.outputStream, createWriteStream(file))
  written.catch(() => {}) // awaited below
  const about: ProjectHead = { format: PROJECT_FILE, version: PROJECT_FILE_VERSION, initial, head }
  zip.addBuffer(Buffer.from(JSON.stringify(about)), PROJECT_ENTRY)
  zip.addReadStream(Readable.from(lines(id, seq)), ACTS_ENTRY)
  let done = 0
  for (const { asset } of assets) {
    const path = await storage().local(KEYS.picture(asset))
    if (path !== undefined) zip.addFile(path, `${PICTURES}${asset}`, { compress: false })
    progress((0.5 * ++done) / assets.length)
  }
  const watch = setInterval(() => progress(0.75), 200)
  try {
    zip.end()
    await written
  } finally {
    clearInterval(watch)
  }
}

async function* lines(id: string, last: number): AsyncGenerator<string> {
  for (let after = 0; after < last;) {
    const { acts, seq } = await newActs(id, after, Math.min(last, after + ACTS_AT_ONCE))
    if (!acts.length) return
    for (const act of acts) yield `${JSON.stringify(act)}\n`
    after = seq
  }
}
