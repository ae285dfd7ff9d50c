/** A thread that makes what jobs ask for, one after another; ended when a job is dropped, takes too long, or nothing comes for a while. */
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { LONGEST_MINUTES } from './boss'
import { type Task, type TaskMessage } from './task'

/** V8 heap; pixels live outside it. */
const HEAP_MB = 1024
const IDLE_MS = 60_000
/** What a thread that has just come up is told to have done. */
const BEGUN = 0.01

export class JobFailed extends Error {
  constructor(
    sentence: string,
    /** Trying again would come to the same. */ readonly forGood: boolean,
  ) {
    super(sentence)
  }
}
/** The job was dropped. */
export class Dropped extends Error {}

export class JobThread {
  private worker: Worker | null = null
  private idle: NodeJS.Timeout | undefined
  private end: ((error: Error) => void) | null = null

  /** What the task comes to. Throws JobFailed, or Dropped after `drop`. @param width threads that take part */
  async run(task: Task, width: number, progress: (fraction: number) => void): Promise<unknown> {
    clearTimeout(this.idle)
    const worker = (this.worker ??= new Worker(
      join(/* turbopackIgnore: true */ process.cwd(), 'dist', 'jobThread.mjs'),
      {
        workerData: { width },
        resourceLimits: { maxOldGenerationSizeMb: HEAP_MB },
      },
    ))
    try {
      return await new Promise<unknown>((resolve, reject) => {
        const limit = setTimeout(() => {
          this.close()
          reject(new JobFailed(`It was ended after ${LONGEST_MINUTES} minutes: something in it takes too long.`, true))
        }, LONGEST_MINUTES * 60_000)
        const over = () => {
          clearTimeout(limit)
          // Not all at once: the thread's own listeners keep its port open.
          for (const event of ['online', 'message', 'error', 'exit']) worker.removeAllListeners(event)
          worker.on('error', () => {})
          this.end = null
        }
        this.end = (error) => {
          over()
          reject(error)
        }
        worker.on('online', () => progress(BEGUN)) // until then its code is read
        worker.on('message', (message: TaskMessage) => {
          if ('progress' in message) return progress(message.progress)
          over()
          if ('failed' in message) reject(new JobFailed(message.failed, message.forGood))
          else resolve(message.done)
        })
        worker.on('error', (error: NodeJS.ErrnoException) => {
          this.worker = null
          const full = error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          this.end?.(new JobFailed(full ? 'This needs more memory than there is.' : error.message, full))
        })
        worker.on('exit', () => {
          this.worker = null
          this.end?.(new JobFailed('It stopped before it was finished.', false))
        })
        worker.postMessage(task)
      })
    } finally {
      this.idle = setTimeout(() => this.close(), IDLE_MS).unref()
    }
  }

  /** Ends what runs, at once. */
  drop(): void {
    this.end?.(new Dropped())
    this.close()
  }
  close(): void {
    clearTimeout(this.idle)
    const { worker } = this
    this.worker = null
    void worker?.terminate()
  }
}
