/** Batches as rows: made, filled with pictures, tried, started, stopped, filtered, mended. Workers make the pictures (../jobs). */
import { and, asc, count, desc, eq, gte, inArray, lt, type SQL, sql } from 'drizzle-orm'
import { RecordError } from '@/core/fields/record'
import { type BatchPlan, parseBatchPlan } from '@/document/batchPlan'
import { type PictureState, ROWS_AT_ONCE, TRIED } from '@/document/batchRows'
import { type Batch, type BatchPicture, type BatchSummary } from '@/document/exchanged'
import { CHANGE_BYTES } from '@/document/limits'
import { database } from '../database/connection'
import { asset, batch, batchPicture } from '../database/schema'
import { cancelJobs, sendJobs } from '../jobs/boss'
import { notFound, Problem } from '../problems'
import { KEYS } from '../storage/keys'
import { storage } from '../storage/store'
import { type Filter } from './filter'

/** Of a plan as JSON: its steps may hold as much as a project's. */
export const PLAN_BYTES = CHANGE_BYTES
/** Pictures of one batch. */
const MOST_PICTURES = 20_000
/** Those that are to be seen first go before those that were started. */
const TRY_PRIORITY = 0,
  USUAL_PRIORITY = -1

const NONE: Record<PictureState, number> = { new: 0, queued: 0, running: 0, done: 0, failed: 0 }

async function countsOf(ids: readonly string[]): Promise<Map<string, Record<PictureState, number>>> {
  const found = new Map(ids.map((id) => [id, { ...NONE }]))
  if (!ids.length) return found
  const rows = await database()
    .select({ id: batchPicture.batch, state: batchPicture.state, n: count() })
    .from(batchPicture)
    .where(inArray(batchPicture.batch, [...ids]))
    .groupBy(batchPicture.batch, batchPicture.state)
  for (const { id, state, n } of rows) found.get(id)![state as PictureState] = n
  return found
}
type Row = typeof batch.$inferSelect
const summaryOf = ({ id, name, state, created }: Row, counts: Record<PictureState, number>): BatchSummary => ({
  id,
  name,
  state: state as BatchSummary['state'],
  created: created.toISOString(),
  counts,
})

export async function listBatches(): Promise<BatchSummary[]> {
  const rows = await database().select().from(batch).orderBy(desc(batch.changed)),
    counts = await countsOf(rows.map(({ id }) => id))
  return rows.map((row) => summaryOf(row, counts.get(row.id)!))
}
async function rowOf(id: string): Promise<Row> {
  const [row] = await database().select().from(batch).where(eq(batch.id, id))
  if (!row) throw notFound('batch')
  return row
}
export async function batchOf(id: string): Promise<Batch> {
  const row = await rowOf(id)
  return { ...summaryOf(row, (await countsOf([id])).get(id)!), plan: row.plan as BatchPlan }
}

/** Throws Problem 422 with what is wrong. */
function checkedPlan(json: unknown): BatchPlan {
  try {
    return parseBatchPlan(json)
  } catch (error) {
    throw error instanceof RecordError ? new Problem(422, error.message) : error
  }
}
/** Pictures that a plan names must be here. */
async function checkPictures(plan: BatchPlan): Promise<void> {
  const named = plan.steps.flatMap((step) => ('asset' in step ? [step.asset] : []))
  if (plan.output.backdrop && !plan.output.backdrop.startsWith('#')) named.push(plan.output.backdrop)
  for (const name of new Set(named))
    if (!(await database().select({ sha256: asset.sha256 }).from(asset).where(eq(asset.sha256, name))).length)
      throw new Problem(422, `A picture that the steps name (${name.slice(0, 8)}…) is not stored here.`)
}

export async function createBatch(id: string, name: string, json: unknown): Promise<void> {
  const plan = checkedPlan(json)
  await checkPictures(plan)
  await database().insert(batch).values({ id, name, plan, state: 'draft' }).onConflictDoNothing()
}

/** A new plan throws away what the old one made. */
export async function changeBatch(id: string, { name, plan: json }: { name?: string; plan?: unknown }): Promise<Batch> {
  const row = await rowOf(id),
    plan = json === undefined ? undefined : checkedPlan(json)
  if (plan) {
    if (row.state === 'running' && (await isBusy(id)))
      throw new Problem(409, 'Stop the batch before its steps are changed.')
    await checkPictures(plan)
  }
  await database().transaction(async (tx) => {
    await tx
      .update(batch)
      .set({ ...(name ? { name } : {}), ...(plan ? { plan, state: 'draft' } : {}), changed: new Date() })
      .where(eq(batch.id, id))
    if (plan) await tx.update(batchPicture).set(UNMADE).where(eq(batchPicture.batch, id))
  })
  return batchOf(id)
}
const UNMADE = {
  state: 'new',
  run: sql`${batchPicture.run} + 1` as never,
  selected: null,
  doubt: null,
  note: null,
  problem: null,
  ms: null,
  bytes: null,
}
const isBusy = async (id: string): Promise<boolean> => {
  const { queued, running } = (await countsOf([id])).get(id)!
  return queued + running > 0
}

/** @param pictures stored ones. Throws Problem for one that is not here */
export async function addPictures(id: string, pictures: readonly { asset: string; name: string }[]): Promise<void> {
  await rowOf(id)
  const rows = await database()
      .select()
      .from(asset)
      .where(inArray(asset.sha256, [...new Set(pictures.map((each) => each.asset))])),
    known = new Map(rows.map((row) => [row.sha256, row]))
  await database().transaction(async (tx) => {
    await tx.select().from(batch).where(eq(batch.id, id)).for('update')
    const [{ last }] = await tx
      .select({ last: sql<number>`coalesce(max(${batchPicture.number}), 0)`.mapWith(Number) })
      .from(batchPicture)
      .where(eq(batchPicture.batch, id))
    if (last + pictures.length > MOST_PICTURES) throw new Problem(422, `A batch has up to ${MOST_PICTURES} pictures.`)
    if (!pictures.length) return
    await tx.insert(batchPicture).values(
      pictures.map(({ asset: sha256, name }, i) => {
        const found = known.get(sha256)
        if (!found) throw new Problem(422, `“${name}” is not stored here; add it again.`)
        return { batch: id, number: last + 1 + i, asset: sha256, name, width: found.width, height: found.height }
      }),
    )
    await tx.update(batch).set({ changed: new Date() }).where(eq(batch.id, id))
  })
}

const matching = (id: string, { state, doubt, words }: Filter): SQL | undefined =>
  and(
    eq(batchPicture.batch, id),
    state ? eq(batchPicture.state, state) : undefined,
    doubt === undefined ? undefined : gte(batchPicture.doubt, doubt),
    ...words.map((word) => sql`strpos(lower(${batchPicture.name}), lower(${word})) > 0`),
  )

/** @param from how many are passed over */
export async function picturesOf(
  id: string,
  filter: Filter,
  from = 0,
): Promise<{ pictures: BatchPicture[]; total: number }> {
  const [{ total }] = await database().select({ total: count() }).from(batchPicture).where(matching(id, filter))
  const rows = await database()
    .select()
    .from(batchPicture)
    .where(matching(id, filter))
    .orderBy(
      ...(filter.order === 'doubt' ? [sql`${batchPicture.doubt} desc nulls last`] : []),
      ...(filter.order === 'name' ? [asc(sql`lower(${batchPicture.name})`)] : []),
      asc(batchPicture.number),
    )
    .limit(ROWS_AT_ONCE)
    .offset(from)
  return {
    total,
    pictures: rows.map(({ batch: _, touched, ...row }) => {
      void [_, touched]
      return row as BatchPicture
    }),
  }
}

/** Sends pictures to the workers; those that run or wait already are passed over. */
async function send(id: string, which: SQL | undefined, priority: number): Promise<void> {
  const rows = await database()
    .update(batchPicture)
    .set({ ...UNMADE, state: 'queued', touched: new Date() })
    .where(and(eq(batchPicture.batch, id), which))
    .returning({ number: batchPicture.number, run: batchPicture.run })
  // Batches take turns: the tenth picture of one goes before the twentieth of another.
  await sendJobs(
    'batch',
    rows
      .sort((a, b) => a.number - b.number)
      .map(({ number, run }, place) => ({ data: { id, number, run }, priority: priority - place })),
  )
}
const isIdle = sql`${batchPicture.state} in ('new', 'done', 'failed')`

/** The first few, to see what comes of them. */
export async function tryBatch(id: string): Promise<Batch> {
  await rowOf(id)
  await send(id, and(isIdle, lt(batchPicture.number, TRIED + 1)), TRY_PRIORITY)
  return batchOf(id)
}
/** All that is not made yet. */
export async function startBatch(id: string): Promise<Batch> {
  const { counts } = await batchOf(id)
  if (!Object.values(counts).some(Boolean)) throw new Problem(422, 'There are no pictures in this batch yet.')
  await database().update(batch).set({ state: 'running', changed: new Date() }).where(eq(batch.id, id))
  await send(id, eq(batchPicture.state, 'new'), USUAL_PRIORITY)
  return batchOf(id)
}
/** Some again: those that failed, or named ones. */
export async function runAgain(id: string, numbers?: readonly number[]): Promise<Batch> {
  await rowOf(id)
  await database().update(batch).set({ state: 'running', changed: new Date() }).where(eq(batch.id, id))
  await send(
    id,
    numbers ? and(isIdle, inArray(batchPicture.number, [...numbers])) : eq(batchPicture.state, 'failed'),
    USUAL_PRIORITY,
  )
  return batchOf(id)
}
/** What runs is dropped, what waits waits no more; what is done stays. */
export async function stopBatch(id: string): Promise<Batch> {
  await rowOf(id)
  await database().update(batch).set({ state: 'stopped', changed: new Date() }).where(eq(batch.id, id))
  const before = await database()
    .select({ number: batchPicture.number, run: batchPicture.run })
    .from(batchPicture)
    .where(and(eq(batchPicture.batch, id), inArray(batchPicture.state, ['queued', 'running'])))
  await database()
    .update(batchPicture)
    .set(UNMADE)
    .where(and(eq(batchPicture.batch, id), inArray(batchPicture.state, ['queued', 'running'])))
  await cancelJobs(
    'batch',
    before.map(({ number, run }) => ({ id, number, run })),
  )
  return batchOf(id)
}

export async function removeBatch(id: string): Promise<void> {
  await stopBatch(id)
  await database().delete(batch).where(eq(batch.id, id))
  const keys: string[] = []
  for await (const { key } of storage().list(KEYS.batch(id))) keys.push(key)
  await storage().remove(...keys)
}
