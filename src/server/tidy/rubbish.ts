/** What nobody uses any more: found here, told by `bin/wily tidy --dry-run`, taken away by the server now and then (sweep.ts). */
import { and, eq, lt, notExists, sql } from 'drizzle-orm'
import { type PgColumn, type PgTable } from 'drizzle-orm/pg-core'
import { alone } from '../assets'
import { database } from '../database/connection'
import { asset, batch, batchPicture, exported, libraryPicture, project, projectAsset } from '../database/schema'
import { forget } from '../exports/exports'
import { keysOfAsset } from '../storage/keys'
import { storage } from '../storage/store'

const DAY_MS = 24 * 60 * 60_000
/** A picture that was sent may be named by a change that has not come yet, from a browser that was closed meanwhile, ms. */
export const GRACE_MS = 7 * DAY_MS
/** Exports stay so long, ms. */
const EXPORTS_MS = DAY_MS

export interface Rubbish {
  readonly what:
    'exports of yesterday' | 'pictures that nothing names' | 'files without a record' | 'results of deleted projects'
  readonly name: string
  readonly bytes: number
  remove(): Promise<void>
}

/** Tables that name pictures. */
const NAMING: readonly (PgTable & { readonly asset: PgColumn })[] = [projectAsset, libraryPicture, batchPicture]

export async function* rubbish(now = Date.now()): AsyncGenerator<Rubbish> {
  yield* oldExports(new Date(now - EXPORTS_MS))
  yield* unnamedPictures(new Date(now - GRACE_MS))
  yield* strayFiles(new Date(now - GRACE_MS))
}

async function* oldExports(before: Date): AsyncGenerator<Rubbish> {
  const rows = await database()
    .select({ id: exported.id, bytes: exported.bytes, name: exported.name })
    .from(exported)
    .where(lt(exported.touched, before))
  for (const { id, bytes, name } of rows)
    yield { what: 'exports of yesterday', name, bytes: bytes ?? 0, remove: () => forget(id).catch(() => {}) }
}

async function* unnamedPictures(before: Date): AsyncGenerator<Rubbish> {
  const unnamed = and(
    lt(asset.created, before),
    ...NAMING.map((table) =>
      notExists(
        database()
          .select({ one: sql`1` })
          .from(table)
          .where(eq(table.asset, asset.sha256)),
      ),
    ),
    // A plan names its backdrop and the pictures of its steps.
    notExists(
      database()
        .select({ one: sql`1` })
        .from(batch)
        .where(sql`strpos(${batch.plan}::text, ${asset.sha256}) > 0`),
    ),
  )
  const rows = await database().select({ sha256: asset.sha256, bytes: asset.bytes }).from(asset).where(unnamed)
  for (const { sha256, bytes } of rows)
    yield {
      what: 'pictures that nothing names',
      name: sha256,
      bytes,
      remove: () =>
        alone(sha256, async () => {
          const removed = await database()
            .delete(asset)
            .where(and(eq(asset.sha256, sha256), unnamed))
            .returning({ sha256: asset.sha256 })
          if (removed.length) await storage().remove(...keysOfAsset(sha256))
        }),
    }
}

/** Whose file it is: the part of its key that names a row. */
const OWNERS = [
  {
    prefix: 'pictures/',
    owner: (key: string) => key.split('/')[2]?.slice(0, 64),
    table: asset,
    id: asset.sha256,
    graced: true,
  },
  { prefix: 'results/', owner: (key: string) => key.split('/')[1], table: project, id: project.id, graced: false },
  {
    prefix: 'exports/',
    owner: (key: string) => key.split('/')[1]?.slice(0, 36),
    table: exported,
    id: exported.id,
    graced: false,
  },
  { prefix: 'batches/', owner: (key: string) => key.split('/')[1], table: batch, id: batch.id, graced: false },
] as const
/** A file may lie there for so long before its row comes, ms. */
const WRITING_MS = 60_000

async function* strayFiles(before: Date): AsyncGenerator<Rubbish> {
  for (const { prefix, owner, table, id, graced } of OWNERS) {
    const known = new Set((await database().select({ id }).from(table)).map((row) => row.id))
    const young = graced ? before.getTime() : Date.now() - WRITING_MS
    for await (const { key, bytes, changed } of storage().list(prefix)) {
      const name = owner(key) ?? ''
      if (known.has(name) || changed.getTime() > young) continue
      const isStray = async () => {
        try {
          return (await database().select({ id }).from(table).where(eq(id, name))).length === 0
        } catch {
          return true // no id at all
        }
      }
      yield {
        what: prefix === 'results/' ? 'results of deleted projects' : 'files without a record',
        name: key,
        bytes,
        remove: () => alone(name, async () => void ((await isStray()) && (await storage().remove(key)))),
      }
    }
  }
}
