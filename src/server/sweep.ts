/**
 * Gives room back: what a crash or a restart left half done, and pictures that no project and no library names any more.
 * Run when the server starts, then every hour, and after a project was deleted.
 */
import { readdir, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { and, eq, inArray, lt, notExists, sql } from 'drizzle-orm'
import { alone } from './assets'
import { database } from './database/connection'
import { asset, maskPicture, project, projectAsset, sky } from './database/schema'
import { filesOfAsset, folder } from './files'

/** A picture that was sent may be named by a change that has not come yet, from a browser that was closed meanwhile, ms. */
const GRACE_MS = 7 * 24 * 60 * 60_000
/** What a deleted project showed stays this long: another tab may still have it open. */
const AFTER_DELETION_MS = 60 * 60_000
const EVERY_MS = 60 * 60_000

/** Files that are still being received or drawn belong to this process: at its start there are none. */
export async function removeLeftovers(): Promise<void> {
  for (const name of ['incoming', 'exports']) {
    const path = await folder(name)
    for (const file of await readdir(path)) await rm(join(path, file), { recursive: true, force: true })
  }
}

/** Pictures without a name, and picture files without a row. */
async function sweepPictures(): Promise<void> {
  const before = new Date(Date.now() - GRACE_MS),
    unnamed = and(
      lt(asset.created, before),
      notExists(
        database()
          .select({ one: sql`1` })
          .from(projectAsset)
          .where(eq(projectAsset.asset, asset.sha256)),
      ),
      notExists(
        database()
          .select({ one: sql`1` })
          .from(maskPicture)
          .where(eq(maskPicture.asset, asset.sha256)),
      ),
      notExists(
        database()
          .select({ one: sql`1` })
          .from(sky)
          .where(eq(sky.asset, asset.sha256)),
      ),
    )
  for (const { sha256 } of await database().select({ sha256: asset.sha256 }).from(asset).where(unnamed))
    await alone(sha256, async () => {
      const removed = await database()
        .delete(asset)
        .where(and(eq(asset.sha256, sha256), unnamed))
        .returning({ sha256: asset.sha256 })
      if (!removed.length) return
      await Promise.all(filesOfAsset(sha256).map((file) => rm(file, { force: true })))
    })
  await removeStrayFiles(before)
  await removeStrayResults()
}

/** What was found in projects that are gone. */
async function removeStrayResults(): Promise<void> {
  const known = new Set((await database().select({ id: project.id }).from(project)).map((row) => row.id)),
    path = await folder('results')
  for (const name of await readdir(path))
    if (
      !known.has(name) &&
      !(await database().select({ id: project.id }).from(project).where(eq(project.id, name))).length
    )
      await rm(join(path, name), { recursive: true, force: true })
}

async function removeStrayFiles(before: Date): Promise<void> {
  const known = new Set((await database().select({ sha256: asset.sha256 }).from(asset)).map((row) => row.sha256))
  const path = await folder('pictures')
  for (const part of await readdir(path))
    for (const name of await readdir(join(path, part)).catch(() => [])) {
      const sha256 = name.slice(0, 64),
        file = join(path, part, name)
      if (known.has(sha256) || ((await stat(file).catch(() => null))?.mtime ?? new Date()) > before) continue
      await alone(sha256, async () => {
        const [row] = await database().select({ sha256: asset.sha256 }).from(asset).where(eq(asset.sha256, sha256))
        if (!row) await rm(file, { force: true })
      })
    }
}

/** Takes a project away; what only it showed goes soon after. */
export async function removeProject(id: string): Promise<void> {
  await database().transaction(async (tx) => {
    await tx
      .update(asset)
      .set({ created: new Date(Date.now() - GRACE_MS + AFTER_DELETION_MS) })
      .where(
        inArray(
          asset.sha256,
          tx.select({ asset: projectAsset.asset }).from(projectAsset).where(eq(projectAsset.project, id)),
        ),
      )
    await tx.delete(project).where(eq(project.id, id))
  })
  sweepSoon()
}

/** A sweep that may fail: the next one tries again. */
export const sweepSoon = (): void => {
  sweepPictures().catch((error: unknown) => console.error('The sweep was put off:', error))
}
export async function startSweeping(): Promise<void> {
  await removeLeftovers().catch((error: unknown) => console.error('Leftovers could not be removed:', error))
  setTimeout(sweepSoon, 5000).unref()
  setInterval(sweepSoon, EVERY_MS).unref()
}
