/** The threads that read, check and store records. A request that takes too long ends its thread and gets a sentence; the others go on. */
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { Problem } from '../problems'

export interface RecordsRequest {
  readonly number: number
  readonly ask: 'create' | 'open' | 'acts' | 'store' | 'about'
  readonly id: string
  /** The request's body, as it came. */
  readonly body?: Uint8Array
  readonly args?: readonly (string | number | null)[]
}
export interface RecordsAnswer {
  readonly number: number
  /** JSON. */
  readonly bytes?: Uint8Array
  readonly problem?: { readonly status: number; readonly sentence: string }
}

const THREADS = 2
const LONGEST_MS = 60_000
/** V8 heap of a thread. */
const HEAP_MB = 1024

interface Waiting {
  readonly request: RecordsRequest
  readonly answer: (answer: RecordsAnswer) => void
}
interface Thread {
  worker: Worker
  now: Waiting | null
  timer?: NodeJS.Timeout
}
/** On globalThis: Next.js may load this module more than once in a process. */
interface Pool {
  readonly threads: Thread[]
  readonly queue: Waiting[]
  count: number
}
const store = globalThis as typeof globalThis & { wilyRecords?: Pool }
const pool = (): Pool => (store.wilyRecords ??= { threads: [], queue: [], count: 0 })

/** The answer as JSON bytes. Throws Problem. */
export function askRecords(request: Omit<RecordsRequest, 'number'>): Promise<Uint8Array> {
  const all = pool()
  return new Promise((resolve, reject) => {
    all.queue.push({
      request: { ...request, number: ++all.count },
      answer: ({ bytes, problem }) =>
        bytes ? resolve(bytes) : reject(new Problem(problem?.status ?? 500, problem?.sentence ?? 'No answer.')),
    })
    next()
  })
}
/** The same, parsed: for small answers. */
export const askRecord = async <T>(request: Omit<RecordsRequest, 'number'>): Promise<T> =>
  JSON.parse(new TextDecoder().decode(await askRecords(request))) as T

function next(): void {
  const { threads, queue } = pool()
  if (!queue.length) return
  let thread = threads.find((each) => !each.now)
  if (!thread && threads.length < THREADS) threads.push((thread = begin()))
  if (!thread) return
  const waiting = queue.shift()!
  const free = thread
  free.now = waiting
  free.timer = setTimeout(() => {
    end(free, { number: waiting.request.number, problem: { status: 422, sentence: 'This took too long to check.' } })
    void free.worker.terminate()
  }, LONGEST_MS)
  free.worker.postMessage(waiting.request, waiting.request.body ? [waiting.request.body.buffer as ArrayBuffer] : [])
}

function begin(): Thread {
  // The path is put together at run time: the bundler must not follow it.
  const worker = new Worker(join(/* turbopackIgnore: true */ process.cwd(), 'dist', 'records.mjs'), {
    resourceLimits: { maxOldGenerationSizeMb: HEAP_MB },
  })
  worker.unref()
  const thread: Thread = { worker, now: null }
  worker.on('message', (answer: RecordsAnswer) => {
    if (thread.now?.request.number !== answer.number) return
    clearTimeout(thread.timer)
    const { now } = thread
    thread.now = null
    now.answer(answer)
    next()
  })
  worker.on('error', (error: NodeJS.ErrnoException) => {
    console.error(error)
    // Only what was asked for can have filled its memory; whatever else ended the thread is no fault of the request.
    const problem =
      error.code === 'ERR_WORKER_OUT_OF_MEMORY'
        ? { status: 422, sentence: 'This is more than can be checked here.' }
        : { status: 503, sentence: 'The server is busy; try again.' }
    end(thread, { number: 0, problem })
  })
  worker.on('exit', () =>
    end(thread, { number: 0, problem: { status: 503, sentence: 'The server is busy; try again.' } }),
  )
  return thread
}

function end(thread: Thread, answer: RecordsAnswer): void {
  const { threads } = pool(),
    at = threads.indexOf(thread)
  if (at >= 0) threads.splice(at, 1)
  clearTimeout(thread.timer)
  thread.now?.answer(answer)
  thread.now = null
  next()
}
