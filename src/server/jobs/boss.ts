/**
 * Jobs, kept by pg-boss in the project's database: who asks for work sends a job with the id of the row that says what it is; workers
 * (worker.ts) take it. Rows tell what becomes of it; pg-boss decides whose turn it is, retries with growing pauses, and lets jobs expire.
 */
import { createHash } from 'node:crypto'
import PgBoss from 'pg-boss'
import { databasePool } from '../database/connection'

export const QUEUES = ['export', 'batch'] as const
export type QueueName = (typeof QUEUES)[number]
/** What a job is about: a row of `exported`, or a picture of a batch and which try it is. */
export interface JobData {
  readonly id: string
  readonly number?: number
  readonly run?: number
}

/** One job takes no longer, minutes. */
export const LONGEST_MINUTES = 15
/** A job whose worker dies is begun so many times again before it counts as failed. */
const RETRIES = 5
/** The channel on which workers hear that there is something to do, or to drop. */
export const CHANNEL = 'wily_jobs'
/** Jobs sent at once. */
const SENT_AT_ONCE = 500

const store = globalThis as typeof globalThis & { wilyBoss?: Promise<PgBoss> }

let supervise = false
/** From now on this process tidies up after jobs, too: those that are over, or took too long. To be said before anything else. */
export const superviseJobs = (): void => {
  supervise = true
}

/** Started once in a process; without a database it is tried again the next time. */
export function boss(): Promise<PgBoss> {
  store.wilyBoss ??= begun().catch((error: unknown) => {
    store.wilyBoss = undefined
    throw error
  })
  return store.wilyBoss
}
async function begun(): Promise<PgBoss> {
  const made = new PgBoss({
    db: { executeSql: (text, values) => databasePool().query(text, values) },
    schema: 'jobs',
    schedule: false,
    supervise,
    archiveCompletedAfterSeconds: 600,
    archiveFailedAfterSeconds: 600,
    deleteAfterHours: 12,
  })
  made.on('error', () => {}) // the database is away; the next question says so
  return made.start()
}

/** Run once before anything else: makes pg-boss's tables and the queues. */
export async function prepareQueues(): Promise<void> {
  const made = await boss()
  for (const name of QUEUES)
    await made.createQueue(name, {
      name,
      policy: 'standard',
      retryLimit: RETRIES,
      retryDelay: 1,
      retryBackoff: true,
      expireInMinutes: LONGEST_MINUTES + 1,
    })
}

export interface SentJob {
  readonly data: JobData
  /** The greater goes first. */
  readonly priority: number
}
/** The same job has the same id, however often it is sent. */
export const jobId = ({ id, number = 0, run = 0 }: JobData): string => {
  const hex = createHash('sha256').update(`${id} ${number} ${run}`).digest('hex')
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`
}

export async function sendJobs(name: QueueName, jobs: readonly SentJob[]): Promise<void> {
  const made = await boss()
  for (let from = 0; from < jobs.length; from += SENT_AT_ONCE)
    await made.insert(
      jobs
        .slice(from, from + SENT_AT_ONCE)
        .map(({ data, priority }) => ({ id: jobId(data), name, data, priority: Math.round(priority) })),
    )
  await tellWorkers('new')
}
/** Those that wait go; those that run are dropped by their workers. */
export async function cancelJobs(name: QueueName, jobs: readonly JobData[]): Promise<void> {
  const made = await boss()
  for (let from = 0; from < jobs.length; from += SENT_AT_ONCE) {
    const some = jobs.slice(from, from + SENT_AT_ONCE).map(jobId)
    await made.cancel(name, some)
    await made.deleteJob(name, some)
  }
  await tellWorkers('drop')
}
/** Jobs that a worker took so long ago, ms, and that are not over. pg-boss itself has no question for them. */
export async function takenJobs(name: QueueName, ms: number): Promise<{ id: string; data: JobData }[]> {
  const { rows } = await databasePool().query<{ id: string; data: JobData }>(
    `select id, data from jobs.job where name = $1 and state = 'active' and started_on < now() - $2 * interval '1 millisecond'`,
    [name, ms],
  )
  return rows
}
const tellWorkers = (what: 'new' | 'drop') => databasePool().query('select pg_notify($1, $2)', [CHANNEL, what])
