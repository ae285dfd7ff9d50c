/** Exports as jobs: started, watched, cancelled, fetched once ready. Finished files are kept for an hour. One that takes too long is ended with a sentence. */
import { randomUUID } from 'node:crypto'
import { statSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { storeFile, type StoredPicture } from '../assets'
import { exportFile, folder } from '../files'
import { type ExportInput } from '../inputs'
import { notFound, Problem } from '../problems'
import { type aboutProject } from '../projects'
import { askRecord } from '../records/pool'
import { LONG_MS, nextToBegin } from './queue'
import { type ExportMessage, type ExportTask } from './worker'

const KEPT_MS = 60 * 60 * 1000
const LONGEST_MS = 15 * 60_000
/** Waiting jobs, at most: more are refused. */
const MOST_WAITING = 100
/** V8 heap of a rendering thread; pixels live outside it. */
const HEAP_MB = 1024

export interface ExportState {
  readonly id: string
  readonly state: 'waiting' | 'running' | 'done' | 'failed'
  readonly progress: number
  readonly name: string
  readonly problem?: string
  readonly bytes?: number
  /** Layers that were merged, as a picture of the project's. */ readonly picture?: StoredPicture
}
interface Job {
  state: ExportState
  task: ExportTask
  worker?: Worker
  mediaType: string
  started?: number
}

/** On globalThis: Next.js may load this module more than once in a process. */
interface Exports {
  readonly jobs: Map<string, Job>
  /** When a project's export began last. */
  readonly served: Map<string, number>
  /** Looks again whether those that run take long. */
  later?: NodeJS.Timeout
}
const store = globalThis as typeof globalThis & { wilyExports?: Exports }
const all = (): Exports => (store.wilyExports ??= { jobs: new Map(), served: new Map() })
const jobs = (): Map<string, Job> => all().jobs

const plainName = (name: string) =>
  name
    .replace(/[^\p{L}\p{N} ._-]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, 80) || 'picture'
const EXTENSION = { jpeg: 'jpg', png: 'png', webp: 'webp' } as const

export async function startExport(input: ExportInput): Promise<ExportState> {
  const { name: project, layer } = await askRecord<Awaited<ReturnType<typeof aboutProject>>>({
    ask: 'about',
    id: input.project,
    args: [input.head, input.layer ?? null],
  })
  if (input.what === 'cutout' && !layer) throw new Problem(422, 'Choose the layer to cut out.')
  if (input.what === 'cutout' && input.format === 'jpeg')
    throw new Problem(422, 'A cut-out keeps its transparency, which JPEG cannot: choose PNG or WebP.')
  if (input.what === 'merge' && !input.layers?.length) throw new Problem(422, 'Choose the layers to merge.')
  if (input.what === 'cutout' && layer?.kind !== 'picture')
    throw new Problem(422, `${layer!.name} is no picture: only pictures can be cut out.`)
  if (byState('waiting').length >= MOST_WAITING)
    throw new Problem(503, 'Too many exports wait already; try again in a moment.')
  await folder('exports')
  const id = randomUUID()
  const name = `${plainName(input.what === 'cutout' ? `${layer!.name} cut-out` : project)}.${EXTENSION[input.format]}`
  const task: ExportTask = { ...input, file: exportFile(id) }
  jobs().set(id, { state: { id, state: 'waiting', progress: 0, name }, task, mediaType: `image/${input.format}` })
  startWaiting()
  return jobs().get(id)!.state
}

const byState = (state: ExportState['state']): Job[] => [...jobs().values()].filter((job) => job.state.state === state)

function startWaiting(): void {
  const exports = all()
  clearTimeout(exports.later)
  const next = () =>
    nextToBegin(
      [...byState('running'), ...byState('waiting')].map((job) => ({
        job,
        project: job.task.project,
        started: job.started,
      })),
      Date.now(),
      exports.served,
    )
  for (let turn = next(); turn; turn = next()) run(turn.job)
  if (byState('waiting').length) exports.later = setTimeout(startWaiting, LONG_MS / 4).unref()
}

function run(job: Job): void {
  const update = (change: Partial<ExportState>) => {
    job.state = { ...job.state, ...change }
  }
  const end = (change: Partial<ExportState>) => {
    if (job.state.state !== 'running') return
    update(change)
    clearTimeout(limit)
    job.worker = undefined
    setTimeout(() => {
      void forget(job.state.id)
    }, KEPT_MS).unref()
    startWaiting()
  }
  update({ state: 'running' })
  job.started = Date.now()
  all().served.set(job.task.project, job.started)
  // The path is put together at run time: the bundler must not follow it.
  const worker = new Worker(join(/* turbopackIgnore: true */ process.cwd(), 'dist', 'render.mjs'), {
    workerData: job.task,
    resourceLimits: { maxOldGenerationSizeMb: HEAP_MB },
  })
  job.worker = worker
  const limit = setTimeout(() => {
    end({
      state: 'failed',
      problem: `The export was ended after ${LONGEST_MS / 60_000} minutes: something in this project takes too long to draw.`,
    })
    void worker.terminate().then(() => removeFiles(job.task))
  }, LONGEST_MS)
  limit.unref()
  worker.on('message', (message: ExportMessage) => {
    if ('progress' in message) update({ progress: message.progress })
    else if ('failed' in message) end({ state: 'failed', problem: `The export failed: ${message.failed}` })
    else if (job.task.what === 'merge')
      storeFile(job.task.file, job.state.name).then(
        (picture) => end({ state: 'done', progress: 1, picture }),
        (error: unknown) =>
          end({
            state: 'failed',
            problem: `The merge failed: ${error instanceof Error ? error.message : String(error)}`,
          }),
      )
    else end({ state: 'done', progress: 1, bytes: statSync(job.task.file).size })
  })
  worker.on('error', (error) => end({ state: 'failed', problem: `The export failed: ${error.message}` }))
  worker.on('exit', (code) => {
    if (job.task.what === 'merge' && code === 0) return
    end({ state: 'failed', problem: 'The export stopped before it was finished.' })
  })
}

const jobOf = (id: string): Job =>
  jobs().get(id) ??
  (() => {
    throw notFound('export')
  })()
export const exportState = (id: string): ExportState => jobOf(id).state

export function exportResult(id: string): { file: string; name: string; mediaType: string; bytes: number } {
  const { state, task, mediaType } = jobOf(id)
  if (state.state !== 'done') throw new Problem(409, 'This export is not ready yet.')
  return { file: task.file, name: state.name, mediaType, bytes: state.bytes ?? 0 }
}

/** Cancels or throws away. */
export async function forget(id: string): Promise<void> {
  const job = jobOf(id)
  job.state = { ...job.state, state: 'failed', problem: 'Cancelled.' }
  jobs().delete(id)
  await job.worker?.terminate()
  await removeFiles(job.task)
  startWaiting()
}
const removeFiles = ({ file }: ExportTask) =>
  Promise.all([
    rm(file, { force: true }),
    rm(`${file}.part`, { force: true }),
    rm(`${file}.parts`, { force: true, recursive: true }),
  ])
