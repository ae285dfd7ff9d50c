/** Exports as rows: asked for, watched, cancelled, fetched once ready. A worker makes them (../jobs); what is ready stays for a day (../tidy). */
import { randomUUID } from 'node:crypto'
import { and, count, eq, inArray, sql } from 'drizzle-orm'
import { type ExportState, type StoredPicture } from '@/document/exchanged'
import { database } from '../database/connection'
import { exported } from '../database/schema'
import { type ExportInput } from '../inputs'
import { cancelJobs, sendJobs } from '../jobs/boss'
import { notFound, Problem } from '../problems'
import { type aboutProject } from '../projects'
import { askRecord } from '../records/pool'
import { KEYS } from '../storage/keys'
import { storage } from '../storage/store'
import { kindOfExport, nameOfExport } from './kinds'

/** Of one project's at a time: more are refused. */
const MOST_WAITING = 100
/** An export goes before any batch's picture. */
const PRIORITY = 1

type Row = typeof exported.$inferSelect

const stateOf = (row: Row): ExportState => ({
  id: row.id,
  state: row.state === 'queued' ? 'waiting' : (row.state as ExportState['state']),
  progress: row.progress,
  name: row.name,
  ...(row.problem === null ? {} : { problem: row.problem }),
  ...(row.bytes === null ? {} : { bytes: row.bytes }),
  ...(row.picture === null ? {} : { picture: row.picture as StoredPicture }),
})

export async function startExport(input: ExportInput): Promise<ExportState> {
  const about = await askRecord<Awaited<ReturnType<typeof aboutProject>>>({
      ask: 'about',
      id: input.project,
      args: [input.head, input.layer ?? null],
    }),
    kind = kindOfExport(input),
    problem = kind.problem?.(input, about)
  if (problem) throw new Problem(422, problem)
  const [{ waiting }] = await database()
    .select({ waiting: count() })
    .from(exported)
    .where(and(eq(exported.project, input.project), inArray(exported.state, ['waiting', 'queued'])))
  if (waiting >= MOST_WAITING) throw new Problem(503, 'Too many exports wait already; try again in a moment.')
  const row = {
    id: randomUUID(),
    project: input.project,
    input,
    state: 'waiting',
    name: nameOfExport(input, about),
    mediaType: kind.file(input).mediaType,
  }
  const [made] = await database().insert(exported).values(row).returning()
  await beginNext(input.project)
  return stateOf(made)
}

/** One at a time for each project, in the order they came: so nobody's row of exports keeps others waiting. May be asked at any time. */
export async function beginNext(project: string): Promise<void> {
  const next = await database().transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`export ${project}`}))`)
    const rows = await tx
      .select({ id: exported.id, state: exported.state })
      .from(exported)
      .where(and(eq(exported.project, project), inArray(exported.state, ['waiting', 'queued', 'running'])))
      .orderBy(exported.created)
    const first = rows.find(({ state }) => state === 'waiting')
    if (!first || rows.some(({ state }) => state !== 'waiting')) return null
    await tx.update(exported).set({ state: 'queued', touched: new Date() }).where(eq(exported.id, first.id))
    return first.id
  })
  if (next) await sendExports([next])
}
/** The same job is not made twice, however often it is sent. */
export const sendExports = (ids: readonly string[]): Promise<void> =>
  sendJobs(
    'export',
    ids.map((id) => ({ data: { id }, priority: PRIORITY })),
  )

async function rowOf(id: string): Promise<Row> {
  const [row] = await database().select().from(exported).where(eq(exported.id, id))
  if (!row) throw notFound('export')
  return row
}
export const exportState = async (id: string): Promise<ExportState> => stateOf(await rowOf(id))

export async function exportResult(id: string): Promise<{ key: string; name: string; mediaType: string }> {
  const { state, name, mediaType } = await rowOf(id)
  if (state !== 'done') throw new Problem(409, 'This export is not ready yet.')
  return { key: KEYS.export(id), name, mediaType }
}

/** Cancels or throws away. */
export async function forget(id: string): Promise<void> {
  const [row] = await database().delete(exported).where(eq(exported.id, id)).returning()
  if (!row) throw notFound('export')
  await cancelJobs('export', [{ id }])
  await storage().remove(KEYS.export(id))
  await beginNext(row.project)
}
