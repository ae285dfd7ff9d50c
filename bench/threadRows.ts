/**
 * Long work by two threads beside the same by one: the second is a helper as exports have it. The one has the machine to itself, or does its work
 * while another thread does the same for itself: what two processors slow each other by (memory, neighbours) is nothing that sharing loses.
 */
import { MessageChannel, Worker } from 'node:worker_threads'
import { alone, seenByAll } from '@/core/parallel/crew'
import { crewOf } from '@/core/parallel/threads'
import { type Matte, type Picture } from '@/core/raster/picture'
import { type Row } from './row'
import { sharedWork, type Shown } from './threads'

const { port1, port2 } = new MessageChannel(),
  helper = new Worker('./dist/helper.mjs', { workerData: { port: port2 }, transferList: [port2] })
await new Promise((ready) => helper.once('online', ready))
helper.unref()
port1.unref()
const two = crewOf([port1])

export function threadRows(photo: Picture, subject: Matte, soft: Matte): Row[] {
  const shown: Shown = {
      photo: { ...photo, data: seenByAll(two, photo.data) },
      subject: { ...subject, data: seenByAll(two, subject.data) },
      soft: { ...soft, data: seenByAll(two, soft.data) },
    },
    work = sharedWork(shown)
  let other: Worker | undefined
  /** The same done by another thread, for itself. */
  const beside = (index: number) => {
    other ??= new Worker('./dist/beside.mjs', { workerData: shown })
    const thread = other
    thread.ref()
    return new Promise<void>((done) => {
      thread.once('message', () => (thread.unref(), done()))
      thread.postMessage(index)
    })
  }
  return work.flatMap(([name, by], index): Row[] => [
    [`${name}, two threads`, 1 / 1.7, by(two), 'one thread, edge', by(alone)],
    [
      `${name}, sharing`,
      1 / 1.7,
      by(two),
      'one thread beside another, edge',
      async () => {
        const both = beside(index)
        by(alone)()
        await both
      },
    ],
  ])
}
