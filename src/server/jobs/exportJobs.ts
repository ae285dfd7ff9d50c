/** Exports as a worker sees them. */
import { rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { and, eq, lt, sql } from 'drizzle-orm'
import { storeFile } from '../assets'
import { database } from '../database/connection'
import { exported } from '../database/schema'
import { beginNext, sendExports } from '../exports/exports'
import { type ExportInput } from '../inputs'
import { KEYS } from '../storage/keys'
import { scratch } from '../storage/scratch'
import { storage } from '../storage/store'
import { jobId } from './boss'
import { agoMs, now } from './clock'
import { type JobKind } from './kind'
import { RESULT } from './task'

const is = (id: string, state?: string) => and(eq(exported.id, id), state ? eq(exported.state, state) : undefined)

const there = async (id: string, state?: string): Promise<boolean> =>
  (await database().select({ id: exported.id }).from(exported).where(is(id, state))).length > 0

async function over(id: string, change: Partial<typeof exported.$inferInsert>): Promise<void> {
  const [row] = await database()
    .update(exported)
    .set({ ...change, touched: now })
    .where(is(id, 'running'))
    .returning({ project: exported.project })
  if (row) await beginNext(row.project)
}

export const EXPORT_JOBS: JobKind = {
  queue: 'export',
  idOf: jobId,
  async begin({ id }) {
    const [row] = await database()
      .update(exported)
      .set({ state: 'running', progress: 0, touched: now })
      .where(and(is(id), sql`${exported.state} in ('queued', 'running')`))
      .returning()
    return row && { kind: 'export', folder: await scratch(), input: row.input as ExportInput }
  },
  async touch({ id }, progress) {
    await database()
      .update(exported)
      .set({ touched: now, ...(progress === undefined ? {} : { progress }) })
      .where(is(id, 'running'))
  },
  wanted: ({ id }) => there(id),
  waits: ({ id }) => there(id, 'queued'),
  async store(data, task, result) {
    if (!(await EXPORT_JOBS.wanted(data))) return undefined
    const file = join(task.folder, RESULT),
      { mergedAs } = result as { mergedAs?: string }
    if (mergedAs !== undefined) return { picture: await storeFile(file, mergedAs) }
    const { size } = await stat(file)
    await storage().put(KEYS.export(data.id), file)
    return { bytes: size }
  },
  done: ({ id }, made) => over(id, { ...made, state: 'done', progress: 1 }),
  failed: ({ id }, problem) => over(id, { state: 'failed', problem: `The export failed: ${problem}` }),
  async abandon({ id }) {
    await database()
      .update(exported)
      .set({ touched: new Date(0) })
      .where(is(id, 'running'))
  },
  async giveBack({ id }) {
    await database().update(exported).set({ state: 'queued', touched: now }).where(is(id, 'running'))
  },
  async lost(ms) {
    const rows = await database()
      .update(exported)
      .set({ touched: now })
      .where(and(eq(exported.state, 'running'), lt(exported.touched, agoMs(ms))))
      .returning({ id: exported.id })
    return rows
  },
  async tend() {
    // What was left between two steps: queued without a job, or waiting with nothing before it.
    const rows = await database()
      .select({ id: exported.id, project: exported.project, state: exported.state })
      .from(exported)
      .where(and(sql`${exported.state} in ('waiting', 'queued')`, lt(exported.touched, agoMs(5000))))
    const queued = rows.filter(({ state }) => state === 'queued')
    if (queued.length) await sendExports(queued.map(({ id }) => id))
    for (const project of new Set(rows.map((row) => row.project))) await beginNext(project)
  },
  clear: ({ folder }) => rm(folder, { recursive: true, force: true }),
}
