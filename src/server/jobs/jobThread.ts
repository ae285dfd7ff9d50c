/** The thread's own side: takes tasks, makes them, says how far it is. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import '@/core/network/withAllWeights'
import { parentPort, workerData } from 'node:worker_threads'
import { NoSuchPicture } from '@/core/select/image'
import { NoSuchLayer } from '@/core/select/layer'
import { NoSuchSelection } from '@/core/select/saved'
import { makeBatchPicture } from '../batches/make'
import { makeExport } from '../exports/render'
import { PictureError } from '../pictures/read'
import { isDatabaseGone, isDiskFull, Problem } from '../problems'
import { helped } from './helped'
import { type Task, type TaskMessage } from './task'

const { width } = workerData as { width: number }
const crew = helped(width)
const send = (message: TaskMessage) => parentPort!.postMessage(message)

/** Said no oftener, ms. */
const PROGRESS_MS = 100
function said(): (progress: number) => void {
  let last = 0
  return (progress) => {
    const now = performance.now()
    if (now - last < PROGRESS_MS) return
    last = now
    send({ progress })
  }
}

const FOR_GOOD = [Problem, PictureError, NoSuchSelection, NoSuchLayer, NoSuchPicture, RangeError]
function failed(error: unknown): TaskMessage {
  if (isDiskFull(error)) return { failed: 'The server’s disk is full.', forGood: true }
  if (isDatabaseGone(error)) return { failed: 'The database cannot be reached right now.', forGood: false }
  return {
    failed: sentenceOf(error),
    forGood: FOR_GOOD.some((type) => error instanceof type),
  }
}

parentPort!.on('message', (task: Task) => {
  const progress = said()
  const made = task.kind === 'export' ? makeExport(task, crew, progress) : makeBatchPicture(task, crew, progress)
  made.then(
    (done) => send({ done }),
    (error: unknown) => send(failed(error)),
  )
})
