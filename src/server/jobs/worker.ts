/**
 * bin/worker: takes jobs from the project's database and makes them, on whatever machine it runs. Exports go before batches: while one is being made
 * here, no further picture of a batch is begun. Several workers share the work; one that dies leaves its jobs to the others.
 * --jobs N: pictures of batches at a time (as many as there are processors, less one).
 */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { availableParallelism } from 'node:os'
import { parseArgs } from 'node:util'
import { Client } from 'pg'
import { closeDatabase, CONNECT_MS } from '../database/connection'
import { removeScratch } from '../storage/scratch'
import { BATCH_JOBS } from './batchJobs'
import { boss, CHANNEL, type JobData, type QueueName, superviseJobs, takenJobs } from './boss'
import { EXPORT_JOBS } from './exportJobs'
import { type JobKind } from './kind'
import { Dropped, JobFailed, JobThread } from './thread'

/** Looked for work at least so often, ms: as a rule a worker hears of it. */
const LOOK_EVERY_MS = 1000
const TOUCH_EVERY_MS = 2000
/** A worker that has not been heard of for so long is dead, ms. */
const DEAD_AFTER_MS = 10_000
/** Progress is written so often at most, ms. */
const PROGRESS_EVERY_MS = 250
/** Two exports at a time, and a third when those take long, ms. */
const EXPORTS = 2,
  LONG_MS = 20_000

interface Running {
  readonly kind: JobKind
  readonly data: JobData
  readonly thread: JobThread
  readonly began: number
}
const KINDS: Readonly<Record<QueueName, JobKind>> = { export: EXPORT_JOBS, batch: BATCH_JOBS }

const { values } = parseArgs({ options: { jobs: { type: 'string' } } }),
  atOnce = Number(values.jobs ?? Math.max(1, availableParallelism() - 1))
if (!Number.isInteger(atOnce) || atOnce < 1 || atOnce > 256) {
  process.stderr.write(`--jobs: takes a whole number from 1 to 256, not ${values.jobs}.\n`)
  process.exit(2)
}

const running = new Set<Running>()
let ending = false
/** Those that wait for something to do. */
let waiting: (() => void)[] = []
const wake = () => {
  const all = waiting
  waiting = []
  for (const go of all) go()
}
const rest = (ms: number) =>
  new Promise<void>((resolve) => {
    const timer = setTimeout(resolve, ms)
    waiting.push(() => {
      clearTimeout(timer)
      resolve()
    })
  })
const exportsRunning = () => [...running].filter(({ kind }) => kind.queue === 'export')

/** A lane takes one job after another. @param mayBegin whether it may, now @param width threads for one job */
async function lane(queue: QueueName, width: number, mayBegin: () => boolean): Promise<void> {
  const thread = new JobThread()
  while (!ending) {
    const job = mayBegin() ? await nextJob(queue) : undefined
    if (job) await work(KINDS[queue], job, thread, width)
    else await rest(LOOK_EVERY_MS)
  }
  thread.close()
}

async function nextJob(queue: QueueName): Promise<{ id: string; data: JobData } | undefined> {
  try {
    const [job] = await (await boss()).fetch<JobData>(queue)
    return job
  } catch {
    inTrouble()
    return undefined // without a database there is nothing to do
  }
}

async function work(kind: JobKind, { id, data }: { id: string; data: JobData }, thread: JobThread, width: number) {
  const entry: Running = { kind, data, thread, began: Date.now() }
  running.add(entry)
  try {
    const task = await kind.begin(data)
    if (task) {
      try {
        let last = 0
        const result = await thread.run(task, width, (progress) => {
          if (Date.now() - last < PROGRESS_EVERY_MS) return
          last = Date.now()
          kind.touch(data, progress).catch(() => {})
        })
        const made = await kind.store(data, task, result)
        if (made) await again(() => kind.done(data, made))
      } catch (error) {
        // Whatever may go better the next time is tried again: a database or a storage that is away, a thread that died.
        if (error instanceof Dropped) {
          if (ending) await kind.abandon(data)
        } else if (error instanceof JobFailed && error.forGood) await again(() => kind.failed(data, sentenceOf(error)))
        else throw error
      } finally {
        await kind.clear(task)
      }
    }
    if (!(ending && task)) await again(async () => (await boss()).complete(kind.queue, id))
  } catch (error) {
    await retry(kind, id, data, sentenceOf(error))
  } finally {
    running.delete(entry)
    wake()
  }
}

/** A job that may come to something the next time; after so many tries it counts as failed. */
async function retry(kind: JobKind, id: string, data: JobData, problem: string): Promise<void> {
  try {
    const jobs = await boss()
    await jobs.fail(kind.queue, id, { problem })
    const job = await jobs.getJobById(kind.queue, id)
    if (!job || job.state === 'failed') await kind.failed(data, problem)
    else await kind.giveBack(data)
  } catch (error) {
    process.stderr.write(`${sentenceOf(error)}\n`) // whoever looks for dead workers finds it
  }
}

/** What must be written is tried until the database is back. */
async function again<T>(write: () => Promise<T>): Promise<T> {
  for (let tries = 0; ; tries++) {
    try {
      return await write()
    } catch (error) {
      if (ending || tries > 120) throw error
      await new Promise((resolve) => setTimeout(resolve, 500))
    }
  }
}

/** When the database was last out of reach: until others have given a sign of life again, nobody is taken for dead. */
let trouble = 0

/** Jobs of workers that have died are begun again; those whose rows are gone are dropped. */
async function tend(): Promise<void> {
  if (Date.now() - trouble < DEAD_AFTER_MS) return
  for (const kind of Object.values(KINDS)) {
    for (const data of await kind.lost(DEAD_AFTER_MS)) await retry(kind, kind.idOf(data), data, 'Its worker ended.')
    // A worker that died between taking a job and beginning it: the row waits for it still.
    for (const { id, data } of await takenJobs(kind.queue, DEAD_AFTER_MS))
      if (await kind.waits(data)) await retry(kind, id, data, 'Its worker ended.')
    await kind.tend()
  }
}
async function dropGone(): Promise<void> {
  for (const { kind, data, thread } of running) if (!(await kind.wanted(data))) thread.drop()
}

/** Hears of new work and of work to drop. */
async function listen(): Promise<void> {
  while (!ending) {
    const client = new Client({ connectionString: process.env.DATABASE_URL, connectionTimeoutMillis: CONNECT_MS })
    const gone = new Promise<void>((resolve) => {
      client.on('error', () => resolve())
      client.on('end', () => resolve())
    })
    try {
      await client.connect()
      client.on('notification', ({ payload }) => {
        if (payload === 'drop') void dropGone().catch(() => {})
        else wake()
      })
      await client.query(`listen ${CHANNEL}`)
      stopListening = () => void client.end().catch(() => {})
      wake()
      await gone
    } catch {
      inTrouble()
      await client.end().catch(() => {})
    }
    if (!ending) await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS))
  }
}
let stopListening = () => {}

const inTrouble = () => {
  trouble = Date.now()
}

async function main(): Promise<void> {
  if (!process.env.DATABASE_URL) {
    process.stderr.write('DATABASE_URL is not set: name the project’s PostgreSQL server.\n')
    process.exit(2)
  }
  superviseJobs()
  await removeScratch(true)
  const timers = [
    setInterval(() => {
      for (const { kind, data } of running) kind.touch(data).catch(inTrouble)
      void dropGone().catch(inTrouble)
    }, TOUCH_EVERY_MS),
    setInterval(() => void tend().catch(inTrouble), DEAD_AFTER_MS / 2),
  ]
  const stop = () => {
    if (ending) return
    ending = true
    for (const { thread } of running) thread.drop()
    for (const timer of timers) clearInterval(timer)
    wake()
    stopListening()
  }
  process.on('SIGTERM', stop)
  process.on('SIGINT', stop)
  void tend().catch(inTrouble)
  const all = Math.min(4, availableParallelism())
  await Promise.all([
    listen(),
    ...Array.from({ length: EXPORTS + 1 }, () =>
      lane('export', all, () => {
        const now = exportsRunning()
        return (
          now.length < EXPORTS || (now.length === EXPORTS && now.every(({ began }) => Date.now() - began > LONG_MS))
        )
      }),
    ),
    ...Array.from({ length: atOnce }, () => lane('batch', 1, () => exportsRunning().length === 0)),
  ])
  await (await boss()).stop({ graceful: false }).catch(() => {})
  await closeDatabase()
}

main().catch((error: unknown) => {
  process.stderr.write(`${sentenceOf(error)}\n`)
  process.exit(1)
})
