/** Gives room back by itself: when the server starts, then every hour, and after a project was deleted. */
import { eq, inArray } from 'drizzle-orm'
import { database } from '../database/connection'
import { asset, project, projectAsset } from '../database/schema'
import { removeScratch } from '../storage/scratch'
import { GRACE_MS, rubbish } from './rubbish'

/** What a deleted project showed stays this long: another tab may still have it open. */
const AFTER_DELETION_MS = 60 * 60_000
const EVERY_MS = 60 * 60_000
/** From the server's start to the first sweep. */
const FIRST_MS = 5000

async function sweep(): Promise<void> {
  await removeScratch()
  for await (const each of rubbish()) await each.remove()
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
  sweep().catch((error: unknown) => console.error('The sweep was put off:', error))
}
export async function startSweeping(): Promise<void> {
  // Before anything is received, whatever bears this process's number is an older one's.
  await removeScratch(true).catch((error: unknown) => console.error('Leftovers could not be removed:', error))
  setTimeout(sweepSoon, FIRST_MS).unref()
  setInterval(sweepSoon, EVERY_MS).unref()
}
