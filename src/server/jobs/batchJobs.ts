/** Pictures of batches as a worker sees them. */
import { rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { and, eq, lt, sql } from 'drizzle-orm'
import { type BatchPlan } from '@/document/batchPlan'
import { database } from '../database/connection'
import { batch, batchPicture } from '../database/schema'
import { KEYS } from '../storage/keys'
import { scratch } from '../storage/scratch'
import { storage } from '../storage/store'
import { type JobData, jobId, sendJobs } from './boss'
import { agoMs, now } from './clock'
import { type JobKind } from './kind'
import { RESULT, THUMBNAIL } from './task'

/** Looked after at a time. */
const SENT_AGAIN = 500
/** The row of a job, as long as it asks for this very try. */
const of = ({ id, number = 0, run = 0 }: JobData, ...states: string[]) =>
  and(
    eq(batchPicture.batch, id),
    eq(batchPicture.number, number),
    eq(batchPicture.run, run),
    states.length
      ? sql`${batchPicture.state} in (${sql.join(
          states.map((state) => sql`${state}`),
          sql`, `,
        )})`
      : undefined,
  )

const is = async (data: JobData, state: string): Promise<boolean> =>
  (await database().select({ number: batchPicture.number }).from(batchPicture).where(of(data, state))).length > 0

/** What comes of a picture, beside its file. */
export interface BatchMade {
  readonly selected: number
  readonly doubt: number
  readonly note: string | null
  readonly ms: number
}

export const BATCH_JOBS: JobKind = {
  queue: 'batch',
  idOf: jobId,
  async begin(data) {
    const [row] = await database()
      .update(batchPicture)
      .set({ state: 'running', touched: now })
      .where(of(data, 'queued', 'running'))
      .returning()
    if (!row) return undefined
    const [{ plan }] = await database().select({ plan: batch.plan }).from(batch).where(eq(batch.id, data.id))
    return {
      kind: 'batch',
      folder: await scratch(),
      photo: row.asset,
      name: row.name,
      plan: plan as BatchPlan,
      project: row.project,
    }
  },
  async touch(data) {
    await database().update(batchPicture).set({ touched: now }).where(of(data, 'running'))
  },
  wanted: (data) => is(data, 'running'),
  waits: (data) => is(data, 'queued'),
  async store(data, task, result) {
    if (!(await BATCH_JOBS.wanted(data))) return undefined
    const { id, number = 0 } = data,
      file = join(task.folder, RESULT),
      bytes = (await stat(file)).size
    await storage().put(KEYS.batchedThumbnail(id, number), join(task.folder, THUMBNAIL))
    await storage().put(KEYS.batched(id, number), file)
    return { ...(result as BatchMade), bytes }
  },
  async done(data, made) {
    await database()
      .update(batchPicture)
      .set({ ...made, state: 'done', problem: null, touched: now })
      .where(of(data, 'running'))
  },
  async failed(data, problem) {
    await database()
      .update(batchPicture)
      .set({ state: 'failed', problem, touched: now })
      .where(of(data, 'running', 'queued'))
  },
  async abandon(data) {
    await database()
      .update(batchPicture)
      .set({ touched: new Date(0) })
      .where(of(data, 'running'))
  },
  async giveBack(data) {
    await database().update(batchPicture).set({ state: 'queued', touched: now }).where(of(data, 'running'))
  },
  async lost(ms) {
    const rows = await database()
      .update(batchPicture)
      .set({ touched: now })
      .where(and(eq(batchPicture.state, 'running'), lt(batchPicture.touched, agoMs(ms))))
      .returning({ id: batchPicture.batch, number: batchPicture.number, run: batchPicture.run })
    return rows
  },
  async tend() {
    // What was queued but perhaps never sent: the same job is not made twice.
    const some = database()
      .select({ number: batchPicture.number, id: batchPicture.batch })
      .from(batchPicture)
      .where(and(eq(batchPicture.state, 'queued'), lt(batchPicture.touched, agoMs(60_000))))
      .limit(SENT_AGAIN)
    const rows = await database()
      .update(batchPicture)
      .set({ touched: now })
      .where(sql`(${batchPicture.number}, ${batchPicture.batch}) in ${some}`)
      .returning({ id: batchPicture.batch, number: batchPicture.number, run: batchPicture.run })
    if (rows.length)
      await sendJobs(
        'batch',
        rows.map((data) => ({ data, priority: -data.number })),
      )
  },
  clear: ({ folder }) => rm(folder, { recursive: true, force: true }),
}
